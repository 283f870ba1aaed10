import { SecondScreen } from "@/ui/features/second/SecondScreen";
import { PageTitle } from "@/ui/kit/PageTitle";

export const dynamic = "force-dynamic";

export default async function SecondPage({ params }: { params: Promise<{ ticket: string }> }) {
  return (
    <>
      <PageTitle parts={["Second screen"]} />
      <SecondScreen ticket={(await params).ticket} />
    </>
  );
}
