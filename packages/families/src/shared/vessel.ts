// A bladder tank as the rigs have it. The product reckons with its own law of the air; nothing of it is used here.

/** A vessel with air behind a bladder: m³, Pa gauge when empty, Pa absolute outside. */
export interface Vessel {
  readonly volume: number;
  readonly precharge: number;
  readonly ambient: number;
}

/** Air warms a little as it is pressed together and gives most of it to the wall: between slow (1) and sudden (1.4). */
const EXPONENT = 1.02;
/** What the pipes give from the charge down to nothing, m³. */
const IN_PIPES = 1.8e-4;
/** The bladder fills all but this part of it. */
const LEFT_OVER = 0.02;

/** Water that stays between dry pipes and a full bladder, m³. */
export const held = ({ volume }: Vessel, water: number): number =>
  Math.max(-IN_PIPES, Math.min(volume * (1 - LEFT_OVER), water));

/** Pressure with this much water in it, Pa gauge; with none the pipes fall off quickly. */
export function pressureWith({ volume, precharge, ambient }: Vessel, water: number): number {
  if (water <= 0) return Math.max(0, precharge * (1 + water / IN_PIPES));
  const squeezed = 1 / (1 - water / volume);
  return (precharge + ambient) * Math.exp(EXPONENT * Math.log(squeezed)) - ambient;
}

/** Water that stands in it at a pressure, found by halving: the law above is not turned round by hand. */
export function waterAt(vessel: Vessel, pressure: number): number {
  let [low, high] = [0, vessel.volume * (1 - LEFT_OVER)];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (pressureWith(vessel, middle) < pressure) low = middle;
    else high = middle;
  }
  return low;
}
