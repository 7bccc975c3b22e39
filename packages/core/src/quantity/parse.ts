import { accept, refuse, type Result } from '../result.js';
import type { PressureKind } from './pressure.js';
import { findUnit, toCanonical, unit, unitsOf, type Dimension } from './units.js';

/** A quantity as somebody typed it, beside its canonical value. */
export interface Typed {
  /** Exactly what was typed. */
  readonly text: string;
  /** The number in `unit`. */
  readonly number: number;
  readonly unit: string;
  /** Pa, m³, m³/s, m, s, V or K. */
  readonly value: number;
  /** Set where the spelling of a pressure unit says it (psia, barg). */
  readonly kind?: PressureKind;
}

const VULGAR: Readonly<Record<string, number>> = {
  '½': 1 / 2,
  '¼': 1 / 4,
  '¾': 3 / 4,
  '⅓': 1 / 3,
  '⅔': 2 / 3,
  '⅛': 1 / 8,
  '⅜': 3 / 8,
  '⅝': 5 / 8,
  '⅞': 7 / 8,
  '⅙': 1 / 6,
};

/**
 * A number as people write it: `14,5`, `1 1/2`, `½`, `-5`, `+3.`; a thousands separator is asked about, not guessed.
 * @returns the number, or a refusal that says what was not understood.
 */
export function parseNumber(text: string): Result<number> {
  const t = text
    .trim()
    .replace(/[−–]/g, '-')
    .replace(/\u00a0/g, ' ');
  if (t === '') return refuse('empty', 'Nothing was typed.', { remedy: 'Type a number.' });
  const mixed = /^([+-]?)(\d+)?\s*(?:(\d+)\s*\/\s*(\d+)|([½¼¾⅓⅔⅛⅜⅝⅞⅙]))$/.exec(t);
  if (mixed) {
    const [, sign, whole, top, bottom, vulgar] = mixed;
    // "11/2" may be eleven halves or one and a half: ask.
    const glued = whole !== undefined && top !== undefined && /^[+-]?\d+\/\d+$/.test(t);
    const over = top !== undefined ? Number((glued ? whole : '') + top) / Number(bottom) : 0;
    const part = vulgar ? (VULGAR[vulgar] ?? 0) : over;
    if (bottom !== undefined && Number(bottom) === 0)
      return refuse('divided-by-zero', `"${text}" divides by zero.`, { remedy: 'Type it again.' });
    if (/^[+-]?1[1-9]\/(2|4|8|16)$/.test(t))
      return refuse('ambiguous', `"${text}" could be ${part} or one and a fraction.`, {
        remedy: 'Leave a space between the whole number and the fraction: "1 1/2".',
      });
    return accept((sign === '-' ? -1 : 1) * ((glued ? 0 : Number(whole ?? 0)) + part));
  }
  if (/^[+-]?\d{1,3},\d{3}$/.test(t) && !/^[+-]?0,/.test(t))
    return refuse('ambiguous', `"${text}" could be ${t.replace(',', '')} or ${t.replace(',', '.')}.`, {
      remedy: 'Type it without the comma, or with a point for the decimals.',
    });
  const plain = t.replace(',', '.');
  if (!/^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(plain))
    return refuse('not-a-number', `"${text}" is not a number.`, {
      remedy: 'Type digits, such as 62.5 or 1 1/2.',
    });
  return accept(Number(plain));
}

/**
 * A quantity of one dimension as typed, with its unit or the default one.
 * @param text what was typed, such as `8oz`, `14,5 kPa`, `-5 inHg`
 * @param dimension what it must be
 * @param defaultUnit the unit where none was typed
 */
export function parseQuantity(text: string, dimension: Dimension, defaultUnit: string): Result<Typed> {
  const cut = /^\s*([+\-−–]?[\d\s.,/½¼¾⅓⅔⅛⅜⅝⅞⅙]+(?:e[+-]?\d+)?)\s*(.*)$/i.exec(text);
  if (!cut)
    return text.trim() === ''
      ? refuse('empty', 'Nothing was typed.', { remedy: `Type a number in ${defaultUnit}.` })
      : refuse('not-a-number', `"${text.trim()}" is not a number.`, {
          remedy: `Type digits in ${defaultUnit}, such as 62.5 or 1 1/2.`,
        });
  const number = parseNumber(cut[1] ?? '');
  if (!number.ok) return number;
  const named = (cut[2] ?? '').trim();
  const u = named === '' ? unit(defaultUnit) : findUnit(named);
  const known = unitsOf(dimension)
    .map((x) => x.id)
    .join(', ');
  if (!u)
    return refuse('unknown-unit', `"${named}" is not a unit this app knows.`, {
      remedy: `Use one of ${known}.`,
    });
  if (u.dimension !== dimension)
    return refuse('wrong-dimension', `${u.id} measures ${u.dimension}, not ${dimension}.`, {
      remedy: `Use one of ${known}.`,
    });
  return accept({
    text: text.trim(),
    number: number.value,
    unit: u.id,
    value: toCanonical(number.value, u.id),
    ...(u.kind ? { kind: u.kind } : {}),
  });
}

/** A gauge pressure as typed; an absolute unit (psia, bara) is refused, since only a site's ambient can convert it. */
export function parseGaugePressure(text: string, defaultUnit: string): Result<Typed> {
  const typed = parseQuantity(text, 'pressure', defaultUnit);
  if (typed.ok && typed.value.kind === 'absolute')
    return refuse('wrong-kind', `${typed.value.unit} is absolute; this needs a gauge pressure.`, {
      remedy: `Type it in ${defaultUnit}, or convert it with the site's ambient pressure first.`,
    });
  if (typed.ok && typed.value.kind === 'difference')
    return refuse('wrong-kind', `${typed.value.unit} is a difference; this needs a gauge pressure.`, {
      remedy: `Type what the gauge shows, in ${defaultUnit}.`,
    });
  return typed;
}

/** A pair such as `40/60`: cut-in and cut-out in one breath. */
export function parsePair(text: string, defaultUnit: string): Result<readonly [Typed, Typed]> {
  const cut = /^\s*([\d.,]+)\s*[/–-]\s*([\d.,]+)\s*(.*)$/.exec(text);
  if (!cut) return refuse('not-a-pair', `"${text}" is not a pair.`, { remedy: 'Type it like 40/60.' });
  const low = parseGaugePressure(`${cut[1]} ${cut[3]}`, defaultUnit);
  if (!low.ok) return low;
  const high = parseGaugePressure(`${cut[2]} ${cut[3]}`, defaultUnit);
  if (!high.ok) return high;
  return accept([low.value, high.value]);
}
