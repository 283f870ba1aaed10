import { redirect } from "next/navigation";
import { cutterRepository } from "@/server/features/cutters/repository";
import { database } from "@/server/kernel/db/client";

export const dynamic = "force-dynamic";

/** A workshop in which nothing was ever made opens with the foreman's questions; any other with its cutters. */
export default async function Home() {
  redirect((await cutterRepository.count(await database())) > 0 ? "/cutters" : "/start");
}
