export type ToneSeverity = 'call' | 'caution' | 'warning';

/** One pattern per severity, distinct without looking: a soft blip, two steps up, three harsh falls. */
const PATTERNS: Record<
  ToneSeverity,
  { type: OscillatorType; gain: number; notes: { hz: number; at_s: number; for_s: number }[] }
> = {
  call: { type: 'sine', gain: 0.12, notes: [{ hz: 660, at_s: 0, for_s: 0.09 }] },
  caution: {
    type: 'triangle',
    gain: 0.22,
    notes: [
      { hz: 520, at_s: 0, for_s: 0.16 },
      { hz: 780, at_s: 0.2, for_s: 0.2 },
    ],
  },
  warning: {
    type: 'square',
    gain: 0.2,
    notes: [0, 0.26, 0.52].flatMap((at) => [
      { hz: 1180, at_s: at, for_s: 0.1 },
      { hz: 740, at_s: at + 0.11, for_s: 0.1 },
    ]),
  },
};

let context: AudioContext | null = null;
let playing: OscillatorNode[] = [];

/** Plays the tone of a severity; a new one replaces what still sounds. */
export function playTone(severity: ToneSeverity): void {
  context ??= new AudioContext();
  void context.resume();
  silenceTones();
  const { type, gain, notes } = PATTERNS[severity];
  const start = context.currentTime + 0.01;
  for (const note of notes) {
    const oscillator = new OscillatorNode(context, { type, frequency: note.hz });
    const level = new GainNode(context, { gain: 0 });
    level.gain.setValueAtTime(0, start + note.at_s);
    level.gain.linearRampToValueAtTime(gain, start + note.at_s + 0.01);
    level.gain.setValueAtTime(gain, start + note.at_s + note.for_s - 0.02);
    level.gain.linearRampToValueAtTime(0, start + note.at_s + note.for_s);
    oscillator.connect(level).connect(context.destination);
    oscillator.start(start + note.at_s);
    oscillator.stop(start + note.at_s + note.for_s);
    playing.push(oscillator);
  }
}

export function silenceTones(): void {
  for (const oscillator of playing) oscillator.stop();
  playing = [];
}
