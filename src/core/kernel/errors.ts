/** Stable codes of everything the core refuses. They are part of the command line's contract. */
export type CoreErrorCode =
  | "bad-json"
  | "unknown-verb"
  | "unknown-key"
  | "missing-key"
  | "wrong-type"
  | "out-of-range"
  | "not-one-of"
  | "conflict"
  | "forbidden-foam"
  | "lethal"
  | "outside-domain"
  | "no-solution"
  | "does-not-fit"
  | "newer-format"
  | "wrong-format"
  | "not-ready";

/**
 * A refusal with a stable code, the dotted path of the field at fault and words for a person.
 * Thrown by core functions whose input lies outside the mathematical domain; never carries a stack to a client.
 */
export class CoreError extends Error {
  constructor(
    readonly code: CoreErrorCode,
    readonly path: string,
    message: string,
    /** places in the drawing that it is about, mm, to be marked there */
    readonly places?: readonly (readonly [number, number])[],
  ) {
    super(message);
    this.name = "CoreError";
  }
}

/** Something true but worth knowing about an answer that was still given. */
export interface Warning {
  code: string;
  message: string;
}
