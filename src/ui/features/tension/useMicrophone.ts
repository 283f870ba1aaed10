import { useCallback, useEffect, useRef, useState } from "react";

const HELD_S = 1.7;
const LOOK_EVERY_MS = 250;
/** A pluck is looked at once it has rung this long. */
const RUNG_S = 0.75;
const BLOCK_S = 0.05;

export type MicrophoneState = { kind: "off" } | { kind: "asking" } | { kind: "listening"; level: number } | { kind: "refused"; words: string };

/**
 * Listens to the microphone and hands over each pluck with what was heard before and after it.
 * @param onPluck samples at the microphone's own rate; called once a pluck
 */
export function useMicrophone(onPluck: (samples: Float32Array, sampleRate: number) => void): { state: MicrophoneState; start: () => void; stop: () => void } {
  const [state, setState] = useState<MicrophoneState>({ kind: "off" });
  const ending = useRef<(() => void) | null>(null);
  const handler = useRef(onPluck);
  handler.current = onPluck;

  const stop = useCallback(() => {
    ending.current?.();
    ending.current = null;
    setState({ kind: "off" });
  }, []);
  useEffect(() => () => ending.current?.(), []);

  const start = useCallback(async () => {
    if (!navigator.mediaDevices?.getUserMedia) {
      setState({ kind: "refused", words: "This browser offers no microphone here. A WAV file or the simulated microphone does as well." });
      return;
    }
    setState({ kind: "asking" });
    try {
      // Everything a browser does to make speech pleasant spoils a pitch.
      const stream = await navigator.mediaDevices.getUserMedia({ audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false } });
      const context = new AudioContext();
      await context.audioWorklet.addModule("/ear.js");
      const source = context.createMediaStreamSource(stream);
      const ear = new AudioWorkletNode(context, "upwind-ear", { numberOfOutputs: 0 });
      const rate = context.sampleRate;
      const ring = new Float32Array(Math.round(HELD_S * rate));
      let total = 0;
      let lastPluckAt = Number.NEGATIVE_INFINITY;
      ear.port.onmessage = ({ data }: MessageEvent<Float32Array>) => {
        for (const sample of data) {
          ring[total % ring.length] = sample;
          total += 1;
        }
      };
      source.connect(ear);
      const timer = setInterval(() => {
        if (total < ring.length) return;
        const held = Float32Array.from({ length: ring.length }, (_, i) => ring[(total + i) % ring.length] as number);
        const block = Math.round(BLOCK_S * rate);
        const loud = Array.from({ length: Math.floor(held.length / block) }, (_, k) =>
          Math.sqrt(held.subarray(k * block, (k + 1) * block).reduce((sum, x) => sum + x * x, 0) / block),
        );
        const quiet = [...loud].sort((a, b) => a - b)[Math.floor(loud.length / 5)] ?? 0;
        setState({ kind: "listening", level: Math.min(1, (loud.at(-1) ?? 0) * 4) });
        const first = loud.findIndex((level, k) => k > 1 && level > 0.003 && level > 4 * quiet && level > 2 * (loud[k - 1] ?? 0));
        if (first < 0) return;
        const startsAt = total - held.length + first * block;
        if (held.length - first * block < RUNG_S * rate || startsAt - lastPluckAt < rate * 0.5) return;
        lastPluckAt = startsAt;
        handler.current(held, rate);
      }, LOOK_EVERY_MS);
      ending.current = () => {
        clearInterval(timer);
        for (const track of stream.getTracks()) track.stop();
        void context.close();
      };
      setState({ kind: "listening", level: 0 });
    } catch (error) {
      const name = error instanceof DOMException ? error.name : "";
      setState({
        kind: "refused",
        words:
          name === "NotAllowedError"
            ? "The microphone was not allowed. Allow it in the browser's address bar, or use a WAV file or the simulated microphone."
            : name === "NotFoundError"
              ? "No microphone was found. A WAV file or the simulated microphone does as well."
              : `The microphone could not be opened: ${(error as Error).message}`,
      });
    }
  }, []);
  return { state, start: () => void start(), stop };
}
