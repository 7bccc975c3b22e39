/** How one adjuster is expected to act before this device has said anything. Pressures in Pa, amounts in hand units. */
export interface AdjusterPrior {
  /** Change of the leading setting for one unit clockwise (signed). */
  readonly perTurn: number;
  /** SD of the log of its magnitude. */
  readonly spread: number;
  /** Most that a reversed screw may lose, in hand units. */
  readonly backlash: number;
  /** Every setting it moves: how strongly against the leading one, and the spread of that ratio. */
  readonly moves: readonly { setting: string; ratio: number; ratioSpread: number }[];
}

/**
 * What happened, in order: the screw was moved, a setting was read, or another screw moved one of its settings, by about so much.
 */
export type Happening =
  | { readonly turn: number }
  | { readonly setting: string; readonly value: number; readonly sd: number }
  | { readonly setting: string; readonly by: number; readonly sd: number };

type Hypothesis = 'works' | 'dead' | 'reversed';

/** One possible device: its change per unit, and where its settings would then stand. */
interface Candidate {
  readonly hypothesis: Hypothesis;
  readonly gain: number;
  /** Which share of the most backlash it loses on reversing; undefined until it was first reversed: anything up to all. */
  readonly share?: number;
  weight: number;
  readonly mean: number[];
  readonly variance: number[];
}

/** What is believed of one adjuster on one device, derived from the log. */
export interface Belief {
  readonly prior: AdjusterPrior;
  readonly candidates: readonly Candidate[];
  /** Sign of the last movement: a turn the other way meets backlash. */
  readonly lastDirection: number;
  readonly totalTurned: number;
  /** Settings read at least once. */
  readonly known: readonly boolean[];
}

const GRID = 61;
/** A change that is held to be known this well, or better, was learned: on this device, or on one that was here before it. */
const LEARNED = 0.3;
/** How often what was learned is of another device, or no longer true; and how far it may then be off, as the SD of the log. */
const MISTAKEN = 0.01;
const MISTAKEN_SPREAD = 0.5;
/** How often a reading is not what stands there: another gauge, a wrong unit, a slip of the hand. */
const SLIP = 0.002;
/** How often what stands there was moved by something else than the screws. */
const JUMP = 0.002;
/** How far a slip or a jump lies off: as a part of what is shown, and at least so many times the scatter of a reading. */
const FAR = 0.25;
const FAR_SD = 20;
/** Once a screw was reversed its backlash is learned: it lies in one of so many shares of its most. */
const SHARES = 3;
/** Far below every chance that a decision looks at. */
const RULED_OUT = 1e-9;
const DEAD = 0.01;
const REVERSED = 0.005;
const UNKNOWN = 1e14;

/** The belief before anything happened: a log-normal gain, and small weights for a dead or reversed screw. */
export function priorBelief(prior: AdjusterPrior): Belief {
  const n = prior.moves.length;
  const candidate = (hypothesis: Hypothesis, gain: number, weight: number): Candidate => ({
    hypothesis,
    gain,
    weight,
    mean: new Array<number>(n).fill(0),
    variance: new Array<number>(n).fill(UNKNOWN),
  });
  const candidates: Candidate[] = [candidate('dead', 0, DEAD)];
  const shape =
    prior.spread < LEARNED
      ? [...gains(prior.spread, 1 - MISTAKEN), ...gains(MISTAKEN_SPREAD, MISTAKEN)]
      : gains(prior.spread, 1);
  for (const { factor, w } of shape) {
    candidates.push(candidate('works', prior.perTurn * factor, (1 - DEAD - REVERSED) * w));
    candidates.push(candidate('reversed', -prior.perTurn * factor, REVERSED * w));
  }
  return { prior, candidates, lastDirection: 0, totalTurned: 0, known: new Array<boolean>(n).fill(false) };
}

/** A log-normal factor about 1 on a grid, its weights adding up to `share`. */
function gains(spread: number, share: number): readonly { readonly factor: number; readonly w: number }[] {
  const z = Array.from({ length: GRID }, (_, i) => -4.5 + (9 * i) / (GRID - 1));
  const weights = z.map((x) => Math.exp(-x * x * 0.5));
  const total = weights.reduce((a, b) => a + b, 0);
  return z.map((x, i) => ({ factor: Math.exp(x * spread), w: (share * (weights[i] ?? 0)) / total }));
}

/** Where a movement would put one setting of one candidate: mean and variance, Pa and Pa². */
export function moved(
  belief: Belief,
  c: Candidate,
  index: number,
  amount: number,
): { mean: number; variance: number } {
  const m = belief.prior.moves[index];
  const mean = c.mean[index] ?? 0;
  const variance = c.variance[index] ?? UNKNOWN;
  if (!m || amount === 0) return { mean, variance };
  const reversing = belief.lastDirection !== 0 && Math.sign(amount) !== belief.lastDirection;
  const [least, most] = reversing ? slackOf(c, belief.prior.backlash, Math.abs(amount)) : [0, 0];
  const effective = amount - (Math.sign(amount) * (least + most)) / 2;
  const step = c.gain * m.ratio * effective;
  const ratioDoubt = step * m.ratioSpread;
  const slackDoubt = (c.gain * m.ratio * (most - least)) / Math.sqrt(12);
  return { mean: mean + step, variance: variance + ratioDoubt ** 2 + slackDoubt ** 2 };
}

/** Least and most that a candidate loses on reversing, in hand units; never more than it was turned. */
function slackOf({ share }: Candidate, backlash: number, turned: number): readonly [number, number] {
  const width = share === undefined ? backlash : backlash / SHARES;
  const least = (share ?? 0) * width;
  return [Math.min(least, turned), Math.min(least + width, turned)];
}

/** A screw reversed for the first time: each candidate that works becomes one for every share of its backlash. */
const shared = (c: Candidate): readonly Candidate[] =>
  c.share !== undefined || c.hypothesis !== 'works'
    ? [c]
    : Array.from({ length: SHARES }, (_, share) => ({ ...c, share, weight: c.weight / SHARES }));

/** The belief after one more happening; the old one is untouched. */
export function update(belief: Belief, what: Happening): Belief {
  if ('turn' in what) {
    if (what.turn === 0) return belief;
    const reversing = belief.lastDirection !== 0 && Math.sign(what.turn) !== belief.lastDirection;
    const all =
      reversing && belief.prior.backlash > 0 ? belief.candidates.flatMap(shared) : belief.candidates;
    const candidates = all.map((c) => {
      const next = c.mean.map((_, i) => moved(belief, c, i, what.turn));
      return { ...c, mean: next.map((x) => x.mean), variance: next.map((x) => x.variance) };
    });
    return {
      ...belief,
      candidates,
      lastDirection: Math.sign(what.turn),
      totalTurned: belief.totalTurned + Math.abs(what.turn),
    };
  }
  const i = belief.prior.moves.findIndex((m) => m.setting === what.setting);
  if (i < 0) return belief;
  return 'by' in what ? movedBeside(belief, i, what) : readAt(belief, i, what);
}

/** Another screw moved a setting: it stands elsewhere, and less is known of where. */
function movedBeside(
  belief: Belief,
  i: number,
  { by, sd }: { readonly by: number; readonly sd: number },
): Belief {
  const candidates = belief.candidates.map((c) => ({
    ...c,
    mean: c.mean.map((x, j) => (j === i ? x + by : x)),
    variance: c.variance.map((x, j) => (j === i ? x + sd * sd : x)),
  }));
  return { ...belief, candidates };
}

/**
 * A setting was read. Each candidate explains it in one of three ways, and keeps what is left of all of them: as it stands, give or
 * take the scatter; a slip, after which it stands where it did; or a jump, after which it stands where it was read.
 */
function readAt(
  belief: Belief,
  i: number,
  { value, sd }: { readonly value: number; readonly sd: number },
): Belief {
  const noise = Math.max(sd, 1e-9) ** 2;
  const far = Math.max(FAR_SD * FAR_SD * noise, (FAR * value) ** 2);
  const first = !(belief.known[i] ?? false);
  let total = 0;
  const candidates = belief.candidates.map((c) => {
    const was = c.mean[i] ?? 0;
    const variance = c.variance[i] ?? UNKNOWN;
    const s = variance + noise;
    const miss = value - was;
    const k = variance / s;
    const usual = (1 - SLIP - JUMP) * Math.exp((-miss * miss) / (2 * s)) * Math.sqrt(noise / s);
    const wide = s + far;
    const odd = first ? 0 : Math.exp((-miss * miss) / (2 * wide)) * Math.sqrt(noise / wide);
    const weight = usual + (SLIP + JUMP) * odd;
    total += c.weight * weight;
    // Shares of the three, their means, and the variance about the mean of all.
    const ways =
      weight > 0
        ? ([
            [usual / weight, was + k * miss, variance * (1 - k)],
            [(SLIP * odd) / weight, was, variance],
            [(JUMP * odd) / weight, value, noise],
          ] as const)
        : ([[1, value, noise]] as const);
    const mean = ways.reduce((a, [share, m]) => a + share * m, 0);
    const spread = ways.reduce((a, [share, m, v]) => a + share * (v + (m - mean) ** 2), 0);
    return {
      ...c,
      weight: c.weight * weight,
      mean: c.mean.map((x, j) => (j === i ? mean : x)),
      variance: c.variance.map((x, j) => (j === i ? spread : x)),
    };
  });
  const known = belief.known.map((k, j) => k || j === i);
  // A reading that no candidate can explain: the weights stay as they were.
  if (!(total > 1e-280))
    for (const [n, c] of candidates.entries()) c.weight = belief.candidates[n]?.weight ?? 0;
  else for (const c of candidates) c.weight /= total;
  // What a reading has ruled out is not carried on; a dead or reversed screw may always turn out later.
  const alive = candidates.filter((c) => c.hypothesis !== 'works' || c.weight > RULED_OUT);
  return { ...belief, candidates: alive, known };
}

/** What was believed last from a prior, after each of what had happened: a log mostly grows by its end. */
const remembered = new WeakMap<AdjusterPrior, { readonly what: Happening; readonly then: Belief }[]>();

const same = (a: Happening, b: Happening): boolean =>
  'turn' in a || 'turn' in b
    ? 'turn' in a && 'turn' in b && a.turn === b.turn
    : a.setting === b.setting &&
      a.sd === b.sd &&
      ('by' in a ? 'by' in b && a.by === b.by : 'value' in b && a.value === b.value);

/** The belief after a whole history, in order. Of the same history it is the same object. */
export function believe(prior: AdjusterPrior, history: readonly Happening[]): Belief {
  const known = remembered.get(prior) ?? [];
  remembered.set(prior, known);
  let n = 0;
  while (n < history.length && n < known.length && same(known[n]?.what as Happening, history[n] as Happening))
    n++;
  known.length = n;
  let belief = known[n - 1]?.then ?? fresh(prior);
  for (const what of history.slice(n)) {
    belief = update(belief, what);
    known.push({ what, then: belief });
  }
  return belief;
}

const begun = new WeakMap<AdjusterPrior, Belief>();
function fresh(prior: AdjusterPrior): Belief {
  const belief = begun.get(prior) ?? priorBelief(prior);
  begun.set(prior, belief);
  return belief;
}

/** Change per unit of the leading setting: mean and SD over the working candidates, Pa. */
export function learnedGain(belief: Belief): { perTurn: number; sd: number } {
  let w = 0;
  let m = 0;
  let q = 0;
  for (const c of belief.candidates) {
    if (c.hypothesis !== 'works') continue;
    w += c.weight;
    m += c.weight * c.gain;
    q += c.weight * c.gain * c.gain;
  }
  if (w === 0)
    return { perTurn: belief.prior.perTurn, sd: Math.abs(belief.prior.perTurn) * belief.prior.spread };
  const mean = m / w;
  return { perTurn: mean, sd: Math.sqrt(Math.max(0, q / w - mean * mean)) };
}

/** Probability that the screw works, is dead, or is reversed. */
export function hypotheses(belief: Belief): Readonly<Record<Hypothesis, number>> {
  const out = { works: 0, dead: 0, reversed: 0 };
  for (const c of belief.candidates) out[c.hypothesis] += c.weight;
  return out;
}
