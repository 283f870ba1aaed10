import { Offline } from "@/ui/features/offline/Offline";

export const dynamic = "force-dynamic";

export default function OfflinePage() {
  return <Offline />;
}
