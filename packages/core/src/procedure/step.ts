import type { Gauge } from '../gauge/index.js';
import type { Facts, Phase } from './events.js';
import type { JobView } from './job.js';

/** Words that may depend on how the job stands. */
export type Words = string | ((job: JobView) => string);

/** One answer of an observation. */
export interface Choice {
  readonly code: string;
  readonly title: string;
  /** Shown as the advised answer where this holds. */
  readonly advised?: (job: JobView) => boolean;
  /** The answer carries the pressure it was seen at. */
  readonly withPressure?: boolean;
  /** What that pressure says of a setting: the true value lies above or below it. */
  readonly bounds?: { readonly setting: string; readonly side: 'above' | 'below' };
  readonly sets?: Facts;
  /** In place of a reading: seen before anything is read, and not by the gauge; `rarely` where it only tells that the step before failed. */
  readonly before?: true | 'rarely';
}

/** What every step shows: its name in the walk, its sentence, what it needs and makes true. */
export interface Face {
  readonly key: string;
  /** Short, for the walk. */
  readonly title: string;
  /** Spoken and imperative, for the next move. */
  readonly say: Words;
  readonly why?: Words;
  /** Cautions of the family that stand at this step. */
  readonly cautions?: readonly string[];
  readonly needs?: Facts;
  readonly sets?: Facts;
  readonly tools?: readonly string[];
  readonly phase?: Phase;
  /** What the hands do to the installation here; drives the rig. */
  readonly hands?: Readonly<Record<string, number>>;
  readonly permit?: string;
  /** The result hangs on it: it is not passed over; who cannot do it ends the job. */
  readonly needed?: true;
}

export interface ConfirmStep extends Face {
  readonly kind: 'confirm';
  /** Words of the button. */
  readonly act?: string;
  /** One press may answer for it together with the confirmation just before it: both are in one look, or one walk of the hand. */
  readonly joins?: boolean;
}
export interface NoteStep extends Face {
  readonly kind: 'note';
}
export interface ZeroStep extends Face {
  readonly kind: 'zero';
  readonly slot: string;
  /** The screw is open: the needle is to be set to zero where it stands off. */
  readonly adjust?: boolean;
}
/** How the needle is caught: standing still, at its lowest, highest or momentary peak, or as what drives it stops or starts. */
export type Catch = 'firm' | 'low' | 'high' | 'peak' | 'stops' | 'starts';
export interface ReadStep extends Face {
  readonly kind: 'read';
  readonly setting: string;
  readonly slot: string;
  readonly catch: Catch;
  /** What may happen in place of the reading. */
  readonly instead?: readonly Choice[];
  /** Carry what must not be passed with this step: stop at X. */
  readonly watched?: boolean;
}
/** A contact that can be seen to change: on a meter, or on a channel of a live source. */
export interface Signal {
  readonly channel: string;
  readonly to: 0 | 1;
  /** What is seen when it does: `It closes`. */
  readonly title: string;
}
/** How long something takes to happen, judged against a limit; started by hand. */
export interface Stopwatch extends Signal {
  readonly limit_s: number;
  /** Words of the button that starts it, and what the hands do to the installation then. */
  readonly start: string;
  readonly hands: Readonly<Record<string, number>>;
  /** It has not come and will not, s. */
  readonly most_s: number;
}
/** One small movement after the other, until a signal comes. */
export interface Seek extends Signal {
  readonly way: 1 | -1;
  /** How far each time, in hand units; one where absent. */
  readonly by?: number;
  /** What each movement takes to show itself, s. */
  readonly settles_s?: number;
  /** It has not come and will not, in hand units. */
  readonly most: number;
  /** Words of the button that says so: `End of the wheel, nothing`. */
  readonly ended: string;
}
/** A figure that something other than one of our gauges shows, such as a drive's own display. */
export interface Display {
  /** The channel of a live source that shows it; canonical. */
  readonly channel: string;
  readonly unit: string;
  /** The smallest step that it shows, in `unit`. */
  readonly step: number;
  /** What is shown, for the button: `Display shows`. */
  readonly title: string;
  /** What can be shown at all, in `unit`. */
  readonly lower: number;
  readonly upper: number;
}
/** A display as an instrument to be read: digital, and of no accuracy that anything is judged by. */
export const instrumentOf = ({ channel, title, unit, lower, upper, step }: Display): Gauge => ({
  id: channel,
  label: title,
  kind: 'digital',
  unit,
  lower,
  upper,
  division: step,
  readable: 1,
  accuracy: { standard: 'stated', percentOfSpan: 0 },
});

export interface ObserveStep extends Face {
  readonly kind: 'observe';
  /** With a stopwatch the first is for what was waited for, the second for its not coming. */
  readonly choices: readonly Choice[];
  readonly stopwatch?: Stopwatch;
  /** The answer is a figure read off something; it goes with the first choice. */
  readonly shows?: Display;
  /** Watch for this long before answering, s. */
  readonly seconds?: number;
  /** What is asked is whether the plan holds: it may be changed here before it is answered. */
  readonly asksPlan?: true;
  /** What is asked is what to do, not what is seen. */
  readonly decides?: true;
  /** The place of the gauge that is watched: an answer that carries a pressure has it from there. */
  readonly watches?: string;
}
export interface TurnStep extends Face {
  readonly kind: 'turn';
  readonly adjuster: string;
  /** Turned until something happens, by a count that nobody knows before. */
  readonly seek?: Seek;
  /** Turned by a count that the family reckons from the log; else as the advisor says. Signed, in hand units. */
  readonly amount?: (job: JobView) => number;
  /** How the hand does it, beside which way and how far: `Overshoot a little, then bleed to the value.` */
  readonly how?: string;
  /** It comes back to a mark that was made on it: seen, and not only counted. */
  readonly toMark?: boolean;
}
/** A turn that the advisor says how far: not one by a count of its family, such as back to a mark, nor one that seeks something. */
export const isAdvised = (step: TurnStep): boolean => !step.amount && !step.seek;
export interface WaitStep extends Face {
  readonly kind: 'wait';
  readonly seconds: number;
}
export interface CountStep extends Face {
  readonly kind: 'count';
  readonly times: number;
}

export type Step =
  ConfirmStep | NoteStep | ZeroStep | ReadStep | ObserveStep | TurnStep | WaitStep | CountStep;

export interface Branch {
  readonly kind: 'branch';
  readonly when: (job: JobView) => boolean;
  readonly then: readonly Node[];
  readonly otherwise?: readonly Node[];
}

/** Repeats its body, a pass at a time, until `done` holds. */
export interface Until {
  readonly kind: 'until';
  readonly done: (job: JobView) => boolean;
  readonly body: readonly Node[];
}

export type Node = Step | Branch | Until;

export interface Procedure {
  readonly body: readonly Node[];
  /** Walked at the end of every job, however it ends. */
  readonly restore: readonly Node[];
}

export const branch = (when: Branch['when'], then: readonly Node[], otherwise?: readonly Node[]): Branch => ({
  kind: 'branch',
  when,
  then,
  ...(otherwise ? { otherwise } : {}),
});

/** The nodes directly inside a branch (both arms) or a loop. */
export const inside = (node: Branch | Until): readonly Node[] =>
  node.kind === 'until' ? node.body : [...node.then, ...(node.otherwise ?? [])];
/** The same nodes with every step put through `change`. */
export const withSteps = (nodes: readonly Node[], change: (step: Step) => Step): readonly Node[] =>
  nodes.map((node) => {
    if (node.kind === 'until') return { ...node, body: withSteps(node.body, change) };
    if (node.kind !== 'branch') return change(node);
    return {
      ...node,
      then: withSteps(node.then, change),
      ...(node.otherwise ? { otherwise: withSteps(node.otherwise, change) } : {}),
    };
  });
export const until = (done: Until['done'], body: readonly Node[]): Until => ({
  kind: 'until',
  done,
  body,
});
