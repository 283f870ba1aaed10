/** A program's lines as they are numbered, sent and counted: the newline at its end begins no other. */
export const programLines = (text: string): string[] => text.replace(/(\r\n|\r|\n)$/, "").split(/\r\n|\r|\n/);
