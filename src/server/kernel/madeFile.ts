import { file } from "./door";

/** A file that a worker thread made. */
export interface MadeFile {
  body: string | Uint8Array;
  type: string;
  name: string;
}

/** A made file as a response. */
export const madeFile = ({ body, type, name }: MadeFile): Response => file(typeof body === "string" ? body : Buffer.from(body), type, name);
