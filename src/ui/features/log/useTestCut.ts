import { useEffect, useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { heatCourseOf } from "@/core/cutters/solve/cutBands";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import { offcutOf } from "@/core/cutters/solve/offcut";
import type { TestCut } from "@/core/log/entries";
import { MAX_PHOTO_BYTES, PHOTO_TYPES } from "@/core/log/photo";
import { controlSentence, supplySentence } from "../../cutter/words";
import { ApiError, api, type DrawerRow, type InstrumentReadings } from "../../kit/api";
import { useUnits } from "../../kit/useUnits";
import { afterStoring, newDraft, readMeasures, type TestCutDraft, testCutOf } from "./testCutDraft";

export interface TestCutProps {
  design: Design;
  evaluation: DesignEvaluation;
  /** null for a cutter that is not stored */
  id: string | null;
  drawer: readonly DrawerRow[];
  onSaved: (cut: TestCut) => Promise<void>;
}

/** A test cut as it is filled in: the draft, the drawer's blocks, the instruments' figures, and storing it. */
export function useTestCut({ design, evaluation, id, drawer, onSaved }: TestCutProps) {
  const { show, system } = useUnits();
  const [draft, setDraft] = useState(() => newDraft(design));
  const [fault, setFault] = useState<string | null>(null);
  const [wired, setWired] = useState<InstrumentReadings | null>(null);
  const change = (part: Partial<TestCutDraft>) => setDraft((all) => ({ ...all, ...part }));
  useEffect(() => {
    api.instruments().then(
      (readings) => setWired(readings.wired.length > 0 ? readings : null),
      (error: Error) => setFault(error.message),
    );
  }, []);
  const blocks = drawer.flatMap(({ item }) => (item.kind === "foam" && item.owned && item.family === design.job.foam.family ? [item] : []));
  const chosen = blocks.find((item) => item.name === draft.block);
  const course = useMemo(() => heatCourseOf(design, evaluation), [design, evaluation]);
  const asSet = `${supplySentence(design, show)}, ${controlSentence(design, show)}`;

  const readInstruments = async () => {
    const readings = await api.instruments();
    setWired(readings);
    const { current_A, volts_V } = readings.figures;
    setDraft((all) => ({
      ...all,
      texts: {
        ...all.texts,
        ...(current_A === undefined ? {} : { current: show("current", current_A) }),
        ...(volts_V === undefined ? {} : { volts: show("voltage", volts_V, 2) }),
      },
    }));
    setFault(readings.troubles.length > 0 ? readings.troubles.join(" ") : null);
  };
  const choosePhoto = (file: File | undefined) => {
    if (!file) return;
    if (file.size > MAX_PHOTO_BYTES)
      setFault(`The picture has ${(file.size / 1048576).toFixed(1)} MB. At most ${MAX_PHOTO_BYTES / 1048576} MB can be stored: make it smaller.`);
    else if (!PHOTO_TYPES.includes(file.type as (typeof PHOTO_TYPES)[number])) setFault("A picture must be JPEG, PNG or WebP.");
    else {
      setFault(null);
      change({ photo: file });
    }
  };
  /** @returns whether it was stored */
  const store = async (): Promise<boolean> => {
    if (!id) return false;
    const { face, photo } = draft;
    const { measured, faults } = readMeasures(draft.texts, system);
    change({ faults, unjudged: face === null });
    if (face === null || Object.keys(faults).length > 0) return false;
    try {
      const photoId = photo ? await api.log.addPhoto(id, photo) : undefined;
      await onSaved(testCutOf({ design, evaluation, asSet }, { ...draft, face }, measured, { block: chosen, photoId, at: new Date().toISOString() }));
      setDraft(afterStoring);
      setFault(null);
      return true;
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setFault(error.message);
      return false;
    }
  };
  return {
    draft,
    change,
    fault,
    wired,
    readInstruments,
    choosePhoto,
    store,
    blocks,
    chosen,
    asSet,
    offcut: offcutOf(design, evaluation, draft.widthMm, course, system),
    settlesM: course.entry?.settlesM ?? null,
  };
}
