/** A stream of random numbers from a seed; the same seed gives the same stream everywhere. */
export interface Random {
  /** Uniform in [0, 1). */
  next(): number;
  /** Standard normal. */
  normal(): number;
  /** The stream's position, to be kept and given back to `seeded`. */
  state(): number;
}

/** Mulberry32: small, fast, good enough for simulation noise. */
export function seeded(seed: number): Random {
  let s = seed >>> 0;
  let spare: number | undefined;
  const next = (): number => {
    s = (s + 0x6d2b79f5) >>> 0;
    let t = s;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  return {
    next,
    normal() {
      if (spare !== undefined) {
        const z = spare;
        spare = undefined;
        return z;
      }
      const r = Math.sqrt(-2 * Math.log(1 - next()));
      const a = 2 * Math.PI * next();
      spare = r * Math.sin(a);
      return r * Math.cos(a);
    },
    state: () => s,
  };
}

/** A log-normal factor around 1 with the given SD of the log. */
export const spreadFactor = (random: Random, spread: number): number => Math.exp(random.normal() * spread);

/** A seed from any text, such as an id: FNV-1a. */
export function seedOf(text: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193);
  return h >>> 0;
}

/** Seed of a fitted device's own constants: its rig's where that is known, so that a story ends as it was told. */
export const deviceSeed = (device: {
  readonly id: string;
  readonly rig?: { readonly seed: number } | null | undefined;
}): number => device.rig?.seed ?? seedOf(device.id);

/** The shelf of a firm's own gauges: each errs alike wherever it is taken. */
export const ONE_SHELF = 0;
