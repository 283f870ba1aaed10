import { useCallback, useEffect, useRef, useState } from "react";
import type { BenchScene } from "./useBench";

const NOISE_S = 2;

/** The sound of a cut, if it is wanted: a hiss that grows with heat and feed. Nothing is made until it is switched on. */
export function useHiss(addPainter: (painter: (scene: BenchScene) => void) => () => void): { on: boolean; toggle: () => void } {
  const [on, setOn] = useState(false);
  const audio = useRef<{ context: AudioContext; gain: GainNode; tone: BiquadFilterNode } | null>(null);
  const toggle = useCallback(() => setOn((was) => !was), []);
  useEffect(() => {
    if (!on) return;
    const context = new AudioContext();
    const noise = context.createBuffer(1, context.sampleRate * NOISE_S, context.sampleRate);
    const samples = noise.getChannelData(0);
    for (let i = 0; i < samples.length; i++) samples[i] = Math.random() * 2 - 1;
    const source = context.createBufferSource();
    source.buffer = noise;
    source.loop = true;
    const tone = context.createBiquadFilter();
    tone.type = "bandpass";
    const gain = context.createGain();
    gain.gain.value = 0;
    source.connect(tone).connect(gain).connect(context.destination);
    source.start();
    audio.current = { context, gain, tone };
    const remove = addPainter(({ frame }) => {
      if (!frame) return;
      const melting = frame.inFoam ? Math.min(1, frame.heatWPerM / 80) : 0;
      const moving = Math.min(1, frame.endFeedMPerS / 0.008);
      gain.gain.setTargetAtTime(0.12 * melting * (0.25 + 0.75 * moving), context.currentTime, 0.08);
      tone.frequency.setTargetAtTime(900 + 2500 * moving, context.currentTime, 0.1);
    });
    return () => {
      remove();
      audio.current = null;
      void context.close();
    };
  }, [on, addPainter]);
  return { on, toggle };
}
