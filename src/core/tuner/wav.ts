import * as wavefile from "wavefile";
import { CoreError } from "../kernel/errors";

// Bundlers see the package's named export, Node its default one.
const { WaveFile } = "WaveFile" in wavefile ? wavefile : (wavefile as unknown as { default: typeof import("wavefile") }).default;

export const MAX_WAV_BYTES = 20 * 1024 * 1024;
const LONGEST_S = 60;

/** A recording as one track of samples from -1 to 1. */
export interface Recording {
  samples: Float32Array;
  sampleRate: number;
}

const refuse = (message: string) => new CoreError("wrong-format", "file", message);

/**
 * Reads a WAV file: any channels (mixed), 8 to 64 bits, 8 to 192 kHz, at most a minute.
 * @throws CoreError `wrong-format` in words for anything else
 */
export function readWav(bytes: Uint8Array): Recording {
  if (bytes.byteLength > MAX_WAV_BYTES)
    throw refuse(`this file has ${(bytes.byteLength / 1048576).toFixed(0)} MB; a pluck needs no more than ${MAX_WAV_BYTES / 1048576}`);
  const head = String.fromCharCode(...bytes.subarray(0, 4));
  if (head !== "RIFF" && head !== "RIFX" && head !== "RF64") throw refuse("this is not a WAV file: it does not begin as one");
  let channels: Float64Array[];
  let sampleRate: number;
  try {
    const wave = new WaveFile(bytes);
    sampleRate = (wave.fmt as { sampleRate: number }).sampleRate;
    wave.toBitDepth("32f");
    const read = wave.getSamples(false, Float64Array) as unknown as Float64Array | Float64Array[];
    channels = Array.isArray(read) ? read : [read];
  } catch (error) {
    throw refuse(`this WAV file cannot be read: ${error instanceof Error ? error.message : "it is broken"}`);
  }
  const length = channels[0]?.length ?? 0;
  if (!(sampleRate >= 4000 && sampleRate <= 192000)) throw refuse(`this file has ${sampleRate} samples a second; 4,000 to 192,000 can be heard`);
  if (length < sampleRate * 0.25) throw refuse("this recording is too short: a quarter of a second at least");
  if (length > sampleRate * LONGEST_S) throw refuse(`this recording is longer than ${LONGEST_S} s: cut it to the pluck`);
  const samples = new Float32Array(length);
  for (const channel of channels) for (let i = 0; i < length; i++) samples[i] = (samples[i] as number) + (channel[i] as number) / channels.length;
  if (!samples.every(Number.isFinite)) throw refuse("this recording holds figures that are no sound");
  return { samples, sampleRate };
}

/** A recording as a 16-bit WAV file. */
export function writeWav({ samples, sampleRate }: Recording): Uint8Array {
  const wave = new WaveFile();
  wave.fromScratch(
    1,
    sampleRate,
    "16",
    Int16Array.from(samples, (x) => Math.round(32767 * Math.max(-1, Math.min(1, x)))),
  );
  return wave.toBuffer();
}
