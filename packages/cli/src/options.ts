import {
  ambientAt,
  absolute,
  parseNumber,
  parseQuantity,
  type AbsolutePressure,
} from '@firm-needle/core/quantity';
import { must, no } from './answer.js';

/** Arguments cut into words and options; an option may stand several times. */
export interface Options {
  readonly words: readonly string[];
  all(name: string): readonly string[];
  one(name: string): string | undefined;
  number(name: string, byDefault: number): number;
  has(name: string): boolean;
  /** Those that were given. */
  readonly names: readonly string[];
}

const FLAGS = new Set(['lines', 'help']);

/** Options are `--name value`, except the flags; a word that begins with a minus and a digit is a word. */
export function optionsOf(args: readonly string[]): Options {
  const words: string[] = [];
  const found = new Map<string, string[]>();
  for (let i = 0; i < args.length; i++) {
    const a = args[i] ?? '';
    if (!a.startsWith('--')) {
      words.push(a);
      continue;
    }
    const name = a.slice(2);
    const list = found.get(name) ?? [];
    found.set(name, list);
    if (FLAGS.has(name)) list.push('');
    else {
      const value = args[++i];
      if (value === undefined) no('option-empty', `--${name} wants a value.`, { where: `--${name}` });
      list.push(value ?? '');
    }
  }
  const all = (name: string): readonly string[] => found.get(name) ?? [];
  return {
    words,
    all,
    one: (name) => all(name).at(-1),
    has: (name) => found.has(name),
    names: [...found.keys()],
    number: (name, byDefault) => {
      const text = all(name).at(-1);
      if (text === undefined) return byDefault;
      const n = Number(text);
      if (!Number.isFinite(n))
        no('not-a-number', `--${name} wants a number, not "${text}".`, { where: `--${name}` });
      return n;
    },
  };
}

/** A quantity whose unit is said with it. */
function withUnit(text: string, dimension: 'pressure' | 'length', option: string, example: string) {
  if (parseNumber(text).ok)
    no('unit-missing', `${option} ${text} does not say its unit.`, {
      where: option,
      remedy: `${option} ${example}`,
    });
  return must(parseQuantity(text, dimension, 'Pa'));
}

/** Ambient pressure said by --ambient or --altitude, one of them; undefined where neither was. */
export function ambientSaid(o: Options): AbsolutePressure | undefined {
  const said = o.one('ambient');
  const height = o.one('altitude');
  if (said !== undefined && height !== undefined)
    no('ambient-twice', 'Both --ambient and --altitude say what the air outside is.', { where: '--ambient' });
  if (said !== undefined) {
    const typed = withUnit(said, 'pressure', '--ambient', '101.3kPa');
    if (typed.kind === 'gauge' || typed.kind === 'difference')
      no('wrong-kind', `--ambient ${said} is over the air outside: the air itself is wanted.`, {
        where: '--ambient',
        remedy: '--ambient 101.3kPa, as a barometer shows it.',
      });
    const air = must(absolute(typed.value));
    if (air < LEAST_AIR || air > MOST_AIR)
      no('ambient-outside', `--ambient ${said} is no air that people work in.`, {
        where: '--ambient',
        bound: `${LEAST_AIR / 1000} to ${MOST_AIR / 1000} kPa absolute`,
      });
    return air;
  }
  return height === undefined
    ? undefined
    : must(ambientAt(withUnit(height, 'length', '--altitude', '300m').value));
}

/** Air that people work in, Pa absolute: above the highest road, below the deepest mine. */
const [LEAST_AIR, MOST_AIR] = [40_000, 130_000];

/** Ambient pressure as said, or sea level. */
export const ambientOr = (o: Options): AbsolutePressure => ambientSaid(o) ?? must(ambientAt(0));
