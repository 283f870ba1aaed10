import { notFound } from "next/navigation";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { deferredEvaluationOf } from "@/core/cutters/solve/deferredEvaluation";
import { isPlace } from "@/ui/cutter/views";
import { Desk } from "@/ui/features/desk/Desk";

/** A demo cutter on the desk: nothing is stored unless the maker keeps a copy. */
export default async function DemoPage({ params }: { params: Promise<{ slug: string; place?: string[] }> }) {
  const { slug, place = [] } = await params;
  const design = DEMO_CUTTERS.find((candidate) => candidate.name.toLowerCase().replaceAll(" ", "-") === slug);
  if (!design || !isPlace(place)) notFound();
  return <Desk cutter={{ id: null, document: design, revision: 0 }} deferred={deferredEvaluationOf(design)} />;
}
