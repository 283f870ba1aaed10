import type { Conflict } from "./documentStore";

/** Whose the other version is: somebody who signed in, or anyone who has another tab open. */
export const whose = ({ current }: Pick<Conflict<unknown>, "current">): string => (current.changedBy ? `As ${current.changedBy} saved it` : "In the other tab");
