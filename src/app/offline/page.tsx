import { Offline } from "@/ui/rooms/offline/Offline";

export const dynamic = "force-dynamic";

export default function OfflinePage() {
  return <Offline />;
}
