import { documentRepository } from "../../kernel/documents";

/** Plans: listed, stored, copied and archived like every document. */
export const planRepository = documentRepository("plans");
