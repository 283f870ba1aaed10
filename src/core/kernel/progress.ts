/** Progress of long work: how much of it is done, 0 to 1, and what is being done. */
export type Tell = (share: number, doing: string) => void;
