/** Steps of a rig after its drawing, by their word in the address. Read by pages on the server too. */
export const RIG_STEPS = ["sums", "program", "run", "lessons", "build", "feel", "log"] as const;
export type RigStep = "rig" | (typeof RIG_STEPS)[number];
export const RIG_STEP_WORDS: Readonly<Record<RigStep, string>> = {
  rig: "Drawing",
  sums: "Calculations",
  program: "Path",
  run: "Run",
  lessons: "Lessons",
  build: "Build sheet",
  feel: "Practice",
  log: "Log a cut",
};

/** Whether an address's words after the rig lead anywhere. */
export const isRigStep = (place: readonly string[]): boolean =>
  place.length === 0 || (place.length === 1 && (RIG_STEPS as readonly string[]).includes(place[0] as string));
