import { database } from "@/server/kernel/db/client";
import { listDrawerWhole } from "@/server/rooms/drawer/repository";
import { Drawer } from "@/ui/rooms/drawer/Drawer";

export const dynamic = "force-dynamic";

export default async function DrawerPage() {
  const { rows, unreadable } = await listDrawerWhole(await database());
  return <Drawer rows={rows} unreadable={unreadable} />;
}
