import { redirect } from "next/navigation";
import { database } from "@/server/kernel/db/client";
import { countCutters } from "@/server/rooms/cutters/repository";

export const dynamic = "force-dynamic";

/** A workshop in which nothing was ever made opens with the foreman's questions; any other with its cutters. */
export default async function Home() {
  redirect((await countCutters(await database())) > 0 ? "/cutters" : "/start");
}
