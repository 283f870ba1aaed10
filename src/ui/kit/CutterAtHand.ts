/** The cutter that a new plan or rig is for. */
export interface CutterAtHand<Job> {
  id: string;
  name: string;
  /** what is taken over from it */
  job: Job;
}
