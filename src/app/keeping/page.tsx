import { Keeping } from "@/ui/screens/Keeping";

export const dynamic = "force-dynamic";

export default function KeepingPage() {
  return <Keeping />;
}
