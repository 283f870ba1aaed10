/** What every kind of practice says of a lesson. */
export interface LessonText {
  id: string;
  title: string;
  /** what is to be reached, in a sentence */
  goal?: string;
  /** what to do, in two or three sentences */
  brief: string;
}

/** What an attempt was worth, at the bench, in the hand, with two hands or on a frame. */
export interface Outcome {
  /** null where it is scored and neither good nor bad */
  good: boolean | null;
  /** of 100 */
  score?: number;
  words: string;
  /** heads of the values of the rows */
  columns?: readonly string[];
  rows: readonly (readonly [what: string, ...values: string[]])[];
}
