import { redirect } from "next/navigation";
import { START_STEPS } from "@/core/start/jobCard";

export default function StartFirst() {
  redirect(`/start/${START_STEPS[0]}`);
}
