/** Pitches, Hz: distinguished without looking. */
export const PITCHES = { station: 880, part: 440, wait: 330, go: 1320, corner: 660, end: 1760, count: 550 } as const;
export type Sounded = keyof typeof PITCHES;

/** Short tones of the page's own, made when a hand first starts the pacer: browsers let no page sound before that. */
export class PacerSound {
  private context: AudioContext | null = null;

  start(): void {
    this.context ??= new AudioContext();
    void this.context.resume();
  }

  beep(what: Sounded): void {
    const { context } = this;
    if (context?.state !== "running") return;
    const [tone, loud] = [context.createOscillator(), context.createGain()];
    const now = context.currentTime;
    const long = what === "part" ? 0.05 : what === "end" ? 0.5 : 0.14;
    tone.frequency.value = PITCHES[what];
    // Begun and ended softly: a square edge clicks.
    loud.gain.setValueAtTime(0, now);
    loud.gain.linearRampToValueAtTime(what === "part" ? 0.12 : 0.3, now + 0.008);
    loud.gain.setValueAtTime(what === "part" ? 0.12 : 0.3, now + long - 0.02);
    loud.gain.linearRampToValueAtTime(0, now + long);
    tone.connect(loud).connect(context.destination);
    tone.start(now);
    tone.stop(now + long);
  }

  close(): void {
    void this.context?.close();
    this.context = null;
  }
}

/** A voice that is on this machine, in the page's language; none from a network. */
export function localVoice(): SpeechSynthesisVoice | null {
  if (typeof speechSynthesis === "undefined") return null;
  return speechSynthesis.getVoices().find(({ localService, lang }) => localService && lang.startsWith("en")) ?? null;
}

export function speak(words: string, voice: SpeechSynthesisVoice): void {
  speechSynthesis.cancel();
  const said = new SpeechSynthesisUtterance(words);
  said.voice = voice;
  said.rate = 1.3;
  speechSynthesis.speak(said);
}
