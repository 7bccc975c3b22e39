/** Short sounds and buzzes for eyes that are on the screwdriver. */
let context: AudioContext | undefined;

export type Cue = 'firm' | 'caught' | 'stop' | 'timer';

const TONES: Readonly<Record<Cue, readonly (readonly [hz: number, at: number])[]>> = {
  firm: [[660, 0]],
  caught: [
    [660, 0],
    [880, 0.12],
  ],
  timer: [[520, 0]],
  stop: [
    [300, 0],
    [300, 0.18],
    [300, 0.36],
  ],
};

export function cue(kind: Cue, sound: boolean): void {
  navigator.vibrate?.(kind === 'stop' ? [120, 80, 120] : 60);
  if (!sound || !navigator.userActivation?.hasBeenActive) return;
  context ??= new AudioContext();
  for (const [hz, at] of TONES[kind]) {
    const tone = context.createOscillator();
    const gain = context.createGain();
    tone.frequency.value = hz;
    const t = context.currentTime + at;
    gain.gain.setValueAtTime(0.12, t);
    gain.gain.exponentialRampToValueAtTime(0.001, t + 0.12);
    tone.connect(gain).connect(context.destination);
    tone.start(t);
    tone.stop(t + 0.13);
  }
}
