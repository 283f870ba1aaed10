import { Backups } from "@/ui/features/backups/Backups";

export const dynamic = "force-dynamic";

export default function BackupsPage() {
  return <Backups />;
}
