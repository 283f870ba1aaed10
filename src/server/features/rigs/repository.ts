import { documentRepository } from "../../kernel/documents";

/** Rigs: listed, stored, copied and archived like every document. */
export const rigRepository = documentRepository("rigs");
