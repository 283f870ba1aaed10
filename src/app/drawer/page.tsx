import { listDrawerWhole } from "@/server/features/drawer/repository";
import { database } from "@/server/kernel/db/client";
import { Drawer } from "@/ui/features/drawer/Drawer";

export const dynamic = "force-dynamic";

export default async function DrawerPage() {
  const { rows, unreadable } = await listDrawerWhole(await database());
  return <Drawer rows={rows} unreadable={unreadable} />;
}
