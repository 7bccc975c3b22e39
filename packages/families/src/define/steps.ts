import type {
  Catch,
  Choice,
  ConfirmStep,
  CountStep,
  Display,
  JobView,
  ObserveStep,
  Phase,
  ReadStep,
  SettingDef,
  Stopwatch,
  TurnStep,
  WaitStep,
  Words,
  ZeroStep,
} from '@firm-needle/core/procedure';
import type { Names } from './parts.js';

type FactsOf<N extends Names> = { readonly [F in keyof N['facts']]?: N['facts'][F] };
type HandsOf<N extends Names> = { readonly [H in N['handle']]?: number };

/** What a step says of itself, in the names of its family. */
export interface FaceOf<N extends Names> {
  readonly why?: Words;
  readonly needs?: FactsOf<N>;
  readonly sets?: FactsOf<N>;
  readonly cautions?: readonly N['caution'][];
  readonly hands?: HandsOf<N>;
  readonly tools?: readonly string[];
  /** Turns adjust where nothing else is said; `undefined` for one that belongs to no phase. */
  readonly phase?: Phase | undefined;
  readonly permit?: string;
  readonly needed?: true;
}

/** An answer: its title alone, or what it makes true and says of a setting. */
export type AnswerOf<N extends Names> =
  | string
  | (Omit<Choice, 'code' | 'sets' | 'bounds' | 'advised'> & {
      readonly sets?: FactsOf<N>;
      readonly bounds?: { readonly setting: N['setting']; readonly side: 'above' | 'below' };
      /** The usual answer, or the one where this holds. */
      readonly advised?: true | ((job: JobView) => boolean);
    });
export type AnswersOf<N extends Names> = Readonly<Record<string, AnswerOf<N>>>;

/** The steps of a family. A key is stable for ever: it stands in every log. */
export interface Steps<N extends Names> {
  confirm(
    key: string,
    title: string,
    say: Words,
    face?: FaceOf<N> & Pick<ConfirmStep, 'act' | 'joins'>,
  ): ConfirmStep;
  zero(
    key: string,
    slot: N['slot'],
    title: string,
    say: Words,
    face?: FaceOf<N> & { readonly adjust?: boolean },
  ): ZeroStep;
  /** A reading of a setting on the gauge in its place, caught as the setting is caught. */
  read(
    key: string,
    setting: N['setting'],
    title: string,
    say: Words,
    face: FaceOf<N> & {
      readonly phase: Phase;
      readonly catch?: Catch;
      readonly watched?: boolean;
      readonly instead?: AnswersOf<N>;
    },
  ): ReadStep;
  observe(
    key: string,
    title: string,
    say: Words,
    answers: AnswersOf<N>,
    face?: FaceOf<N> & {
      readonly seconds?: number;
      readonly watches?: N['slot'];
      readonly asksPlan?: true;
      readonly decides?: true;
      readonly stopwatch?: Omit<Stopwatch, 'hands'> & { readonly hands: HandsOf<N> };
      readonly shows?: Display;
    },
  ): ObserveStep;
  turn(
    key: string,
    screw: N['screw'],
    title: string,
    say: Words,
    face?: FaceOf<N> & Pick<TurnStep, 'amount' | 'seek' | 'toMark'>,
  ): TurnStep;
  wait(key: string, title: string, say: Words, seconds: number, face?: FaceOf<N>): WaitStep;
  count(key: string, title: string, say: Words, times: number, face?: FaceOf<N>): CountStep;
}

const choicesOf = <N extends Names>(answers: AnswersOf<N>): readonly Choice[] =>
  Object.entries(answers).map(([code, a]) => {
    if (typeof a === 'string') return { code, title: a };
    const { advised, ...rest } = a;
    return {
      code,
      ...rest,
      ...(advised ? { advised: advised === true ? () => true : advised } : {}),
    } as Choice;
  });

/** The builders of steps for these settings; the names are the compiler's business alone. */
export function stepsFor<N extends Names>(settings: readonly SettingDef[]): Steps<N> {
  const face = (f: FaceOf<N> | undefined): object => f ?? {};
  return {
    confirm: (key, title, say, f) => ({ kind: 'confirm', key, title, say, ...face(f) }),
    zero: (key, slot, title, say, f) => ({ kind: 'zero', key, title, say, slot, ...face(f) }),
    read: (key, setting, title, say, { instead, ...f }) => {
      const def = settings.find((s) => s.id === setting);
      if (!def) throw new Error(`No setting is called "${setting}".`);
      return {
        kind: 'read',
        key,
        title,
        say,
        setting,
        slot: def.slot,
        catch: def.catch,
        ...face(f),
        ...(instead ? { instead: choicesOf(instead) } : {}),
      };
    },
    observe: (key, title, say, answers, f) => ({
      kind: 'observe',
      key,
      title,
      say,
      choices: choicesOf(answers),
      ...face(f),
    }),
    turn: (key, adjuster, title, say, f) => ({
      kind: 'turn',
      key,
      title,
      say,
      adjuster,
      phase: 'adjust',
      ...face(f),
    }),
    wait: (key, title, say, seconds, f) => ({ kind: 'wait', key, title, say, seconds, ...face(f) }),
    count: (key, title, say, times, f) => ({ kind: 'count', key, title, say, times, ...face(f) }),
  };
}
