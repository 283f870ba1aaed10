import { useEffect, useState } from "react";
import type { Plan } from "@/core/plans/plan";
import { knowFont, OWN_FONT } from "@/core/plans/shapes/text";

let lettering: Promise<void> | null = null;
/** The app's own lettering, fetched once by the page that first draws letters. */
const fetchLettering = () => {
  lettering ??= fetch("/api/lettering")
    .then((response) => (response.ok ? response.arrayBuffer() : Promise.reject(new Error(`the lettering did not come: ${response.status}`))))
    .then((bytes) => knowFont(OWN_FONT, () => bytes))
    .catch((error) => {
      // Asked for again by anyone who needs it next.
      lettering = null;
      throw error;
    });
  return lettering;
};

/** Whether a plan has letters of the app's own font. */
const lettered = ({ root, tip, panels }: Plan) =>
  [root, tip, ...panels.map((panel) => panel.tip)].some((end) => end?.shape.kind === "text" && end.shape.font_file === undefined);

/** Fetches the app's own lettering where a plan needs it. @returns whether the plan may be drawn, and why the letters did not come */
export function useLettering(plan: Plan | null): { ready: boolean; fault: string | null } {
  const needs = plan !== null && lettered(plan);
  const [here, setHere] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  useEffect(() => {
    if (needs)
      fetchLettering().then(
        () => setHere(true),
        (error: Error) => setFault(error.message),
      );
  }, [needs]);
  return { ready: !needs || here, fault };
}
