import Link from "next/link";
import { PageTitle } from "@/ui/kit/PageTitle";

export default function NotFound() {
  return (
    <main className="fault-page">
      <PageTitle />
      <h1>Nothing here</h1>
      <p>This cutter is not in the shed. It may have been deleted; deleted cutters can be brought back from the list.</p>
      <Link href="/cutters">All cutters</Link>
    </main>
  );
}
