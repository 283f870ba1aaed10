import { readFile } from "node:fs/promises";
import path from "node:path";
import { knowFont, OWN_FONT } from "@/core/plans/shapes/text";

/** One of the app's own fonts. */
export const ttf = (name: string) => readFile(path.join(process.cwd(), "node_modules", "dejavu-fonts-ttf", "ttf", `${name}.ttf`));

export const letteringBytes = async (): Promise<ArrayBuffer> => new Uint8Array(await ttf("DejaVuSans-Bold")).buffer;

let lettering: Promise<void> | null = null;
/** The app's own lettering, read from the disk once: shapes of letters need it. */
export function readLettering(): Promise<void> {
  lettering ??= letteringBytes().then((bytes) => knowFont(OWN_FONT, () => bytes));
  return lettering;
}
