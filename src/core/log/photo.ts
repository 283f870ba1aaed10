/** Most bytes a picture of a cut may have: a telephone's photograph fits, a film does not. */
export const MAX_PHOTO_BYTES = 4 * 1024 * 1024;
export const PHOTO_TYPES = ["image/jpeg", "image/png", "image/webp"] as const;
export type PhotoType = (typeof PHOTO_TYPES)[number];

const begins = (bytes: Uint8Array, ...wanted: number[]) => wanted.every((byte, i) => bytes[i] === byte);

/** What kind of picture these bytes are, by how they begin and regardless of what they claim; null for anything else. */
export function photoType(bytes: Uint8Array): PhotoType | null {
  if (begins(bytes, 0xff, 0xd8, 0xff)) return "image/jpeg";
  if (begins(bytes, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return "image/png";
  if (begins(bytes, 0x52, 0x49, 0x46, 0x46) && begins(bytes.subarray(8), 0x57, 0x45, 0x42, 0x50)) return "image/webp";
  return null;
}
