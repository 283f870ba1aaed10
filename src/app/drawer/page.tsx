import { database } from "@/server/db/client";
import { listDrawer } from "@/server/repositories/drawer";
import { Drawer } from "@/ui/screens/Drawer";

export const dynamic = "force-dynamic";

export default async function DrawerPage() {
  return <Drawer rows={await listDrawer(await database())} />;
}
