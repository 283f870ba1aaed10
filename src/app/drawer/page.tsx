import { database } from "@/server/kernel/db/client";
import { listDrawer } from "@/server/rooms/drawer/repository";
import { Drawer } from "@/ui/rooms/drawer/Drawer";

export const dynamic = "force-dynamic";

export default async function DrawerPage() {
  return <Drawer rows={await listDrawer(await database())} />;
}
