import { PageTitle } from "@/ui/kit/PageTitle";
import { SecondScreen } from "@/ui/rooms/second/SecondScreen";

export const dynamic = "force-dynamic";

export default async function SecondPage({ params }: { params: Promise<{ ticket: string }> }) {
  return (
    <>
      <PageTitle parts={["Second screen"]} />
      <SecondScreen ticket={(await params).ticket} />
    </>
  );
}
