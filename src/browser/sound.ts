"use client";

/** Tones that differ by ear: taken rises, refused falls, stop repeats. Silent until the first key or click unlocked it. */
export type Tone =
  | "taken"
  | "refused"
  | "collapse"
  | "stop"
  | "phase"
  | "step"
  | "done"
  | "interrupted"
  | "cut-back"
  | "input-low"
  | "no-current"
  | "stalled";

const SCORES: Readonly<Record<Tone, readonly (readonly [hertz: number, seconds: number])[]>> = {
  taken: [
    [880, 0.07],
    [1320, 0.09],
  ],
  refused: [
    [330, 0.12],
    [220, 0.18],
  ],
  collapse: [
    [660, 0.1],
    [440, 0.1],
    [660, 0.1],
    [440, 0.1],
  ],
  step: [
    [659, 0.1],
    [988, 0.12],
  ],
  phase: [
    [523, 0.12],
    [784, 0.16],
  ],
  done: [
    [523, 0.14],
    [659, 0.14],
    [784, 0.14],
    [1047, 0.35],
  ],
  interrupted: [
    [784, 0.14],
    [523, 0.14],
    [0, 0.06],
    [784, 0.14],
    [523, 0.3],
  ],
  "cut-back": [
    [784, 0.16],
    [659, 0.16],
    [523, 0.2],
  ],
  "input-low": [
    [392, 0.12],
    [0, 0.05],
    [392, 0.12],
    [0, 0.05],
    [294, 0.3],
  ],
  "no-current": [
    [294, 0.25],
    [0, 0.1],
    [294, 0.25],
  ],
  stalled: [
    [440, 0.1],
    [0, 0.2],
    [440, 0.1],
    [0, 0.2],
    [440, 0.1],
  ],
  stop: [
    [988, 0.18],
    [0, 0.08],
    [988, 0.18],
    [0, 0.08],
    [988, 0.3],
  ],
};

let context: AudioContext | null = null;

/** Sounds a tone, after what is to be seen has had its turn. */
export function play(tone: Tone, muted: boolean): void {
  if (!muted && typeof AudioContext !== "undefined") setTimeout(() => sound(tone), 0);
}

/** Sounds several one after the other, as when a log starts: the browser lets them sound later then. */
export function playAll(tones: readonly Tone[], muted: boolean): void {
  tones.forEach((t, k) => setTimeout(() => play(t, muted), 700 * k));
}

function sound(tone: Tone): void {
  context ??= new AudioContext();
  if (context.state === "suspended") void context.resume();
  let t = context.currentTime + 0.01;
  for (const [hertz, seconds] of SCORES[tone]) {
    if (hertz > 0) {
      const oscillator = context.createOscillator();
      const gain = context.createGain();
      oscillator.frequency.value = hertz;
      gain.gain.setValueAtTime(0.12, t);
      gain.gain.exponentialRampToValueAtTime(0.001, t + seconds);
      oscillator.connect(gain).connect(context.destination);
      oscillator.start(t);
      oscillator.stop(t + seconds);
    }
    t += seconds;
  }
}
