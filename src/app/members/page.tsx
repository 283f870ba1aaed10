import { Members } from "@/ui/rooms/access/Members";

export const dynamic = "force-dynamic";

export default function MembersPage() {
  return <Members />;
}
