import { SecondScreen } from "@/ui/rooms/second/SecondScreen";

export const dynamic = "force-dynamic";

export default async function SecondPage({ params }: { params: Promise<{ ticket: string }> }) {
  return <SecondScreen ticket={(await params).ticket} />;
}
