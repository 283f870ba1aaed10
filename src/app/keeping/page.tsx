import { Keeping } from "@/ui/rooms/keeping/Keeping";

export const dynamic = "force-dynamic";

export default function KeepingPage() {
  return <Keeping />;
}
