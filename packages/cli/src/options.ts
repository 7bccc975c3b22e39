import { ambientAt, absolute, parseQuantity, type AbsolutePressure } from '@firm-needle/core/quantity';
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

/** Ambient pressure said by --ambient or --altitude; undefined where neither was. */
export function ambientSaid(o: Options): AbsolutePressure | undefined {
  const said = o.one('ambient');
  if (said !== undefined) return must(absolute(must(parseQuantity(said, 'pressure', 'Pa')).value));
  const height = o.one('altitude');
  return height === undefined ? undefined : must(ambientAt(must(parseQuantity(height, 'length', 'm')).value));
}

/** Ambient pressure as said, or sea level. */
export const ambientOr = (o: Options): AbsolutePressure => ambientSaid(o) ?? must(ambientAt(0));
