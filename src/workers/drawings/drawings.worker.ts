import { readCoordinates } from "@/core/plans/imports/coordinates";
import { readDxf } from "@/core/plans/imports/dxf";
import { readSvg } from "@/core/plans/imports/svg";
import { serve } from "../kit/serve";
import type { DrawingTasks } from "./protocol";

serve<DrawingTasks>({
  drawing: ({ format, text, unit, gapMm }, tell) => {
    if (format === "svg") return readSvg(text, unit, gapMm, tell);
    if (format === "dxf") return readDxf(text, unit, gapMm, tell);
    const { outline, notes, warnings } = readCoordinates(text);
    return { regions: [{ outline, holes: [] }], notes, warnings };
  },
});
