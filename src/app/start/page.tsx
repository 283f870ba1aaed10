import { redirect } from "next/navigation";
import { STEPS } from "@/core/start/jobCard";

export default function StartFirst() {
  redirect(`/start/${STEPS[0]}`);
}
