import { Members } from "@/ui/features/access/Members";

export const dynamic = "force-dynamic";

export default function MembersPage() {
  return <Members />;
}
