// The values that entries are made of: what each must be to be taken in. Bounds are far outside anything met on site; they keep
// arithmetic finite, not hands in check.
import * as v from 'valibot';
import { EN837_CLASSES, type AccuracyClass, type Gauge } from '../../gauge/index.js';
import type { AdjusterPrior } from '../../advisor/index.js';
import { findUnit, parseQuantity, unit } from '../../quantity/index.js';

/** A type as it is read: nothing of it is ever written to. */
export type Frozen<T> = T extends readonly unknown[] | object ? { readonly [K in keyof T]: Frozen<T[K]> } : T;

/** Names, codes and keys. */
export const word = v.pipe(v.string('is no text'), v.maxLength(200, 'is longer than 200 characters'));
/** What a person wrote. */
export const prose = v.pipe(v.string('is no text'), v.maxLength(8000, 'is longer than 8 000 characters'));
export const number = v.pipe(
  v.number('is no number'),
  v.finite('is not finite'),
  v.minValue(-1e12, 'is below any scale'),
  v.maxValue(1e12, 'is above any scale'),
);
export const positive = v.pipe(number, v.gtValue(0, 'is not above zero'));
export const day = v.pipe(v.string('is no text'), v.regex(/^\d{4}-\d{2}-\d{2}$/, 'is no day'));
export const unitName = v.pipe(
  word,
  v.check((id) => findUnit(id)?.id === id, 'is no unit known here'),
);
/** Names to values; never a name that an object has by itself. */
export const recordOf = <S extends v.GenericSchema>(value: S) =>
  v.record(
    v.pipe(
      word,
      v.check((k) => !OWN.has(k), 'is no name'),
    ),
    value,
  );
const OWN: ReadonlySet<string> = new Set(['__proto__', 'constructor', 'prototype']);
const most = <S extends v.GenericSchema>(item: S, n: number) =>
  v.pipe(v.array(item, 'is no list'), v.maxLength(n, `has more than ${n} parts`));

/** A value as it was typed (or taken from a gauge), beside the canonical one. */
export const asTypedSchema = v.pipe(
  v.object({
    text: v.pipe(v.string('is no text'), v.maxLength(80, 'is longer than 80 characters')),
    unit: unitName,
    /** Raw and canonical: Pa for pressures, s for times; zero and head are applied by the fold, never here. */
    value: number,
  }),
  v.check(saysItsValue, 'says another value than its text'),
);

/** Whether a text and its unit say the value beside them: what was typed is what counts. */
export function saysItsValue({
  text,
  unit: id,
  value,
}: {
  text: string;
  unit: string;
  value: number;
}): boolean {
  const typed = parseQuantity(text, unit(id).dimension, id);
  return typed.ok && Math.abs(typed.value.value - value) <= 1e-6 * Math.max(1, Math.abs(value));
}

export const limitsSchema = v.object({ lower: v.optional(number), upper: v.optional(number) });

/** What a control shall be set to, solved and bounded, as a versioned whole. */
export const planSchema = v.object({
  version: v.pipe(number, v.integer('is no whole number')),
  variant: word,
  school: word,
  /** What was chosen that is no number: what it feeds, which fuel. */
  choices: v.optional(recordOf(word)),
  /** Settings given by a person, oldest first; the rest follow by relation. */
  given: most(v.intersect([v.object({ setting: word }), asTypedSchema]), 100),
  values: recordOf(number),
  limits: recordOf(limitsSchema),
  plate: recordOf(asTypedSchema),
});

const B40_GRADES = ['4A', '3A', '2A', '1A', 'A', 'B', 'C', 'D'] as const;
const accuracySchema: v.GenericSchema<unknown, AccuracyClass> = v.variant('standard', [
  v.object({ standard: v.literal('B40.100'), grade: v.picklist(B40_GRADES, 'is no grade') }),
  v.object({ standard: v.literal('EN 837-1'), class: v.picklist(EN837_CLASSES, 'is no class') }),
  v.object({
    standard: v.literal('stated'),
    percentOfSpan: v.pipe(number, v.minValue(0, 'is below zero'), v.maxValue(100, 'is above the span')),
  }),
]);

export const gaugeSchema = v.pipe(
  v.object({
    id: word,
    label: word,
    kind: v.picklist(
      ['bourdon', 'digital', 'u-tube', 'diaphragm', 'bench', 'thermometer'],
      'is no kind of gauge',
    ),
    unit: unitName,
    lower: number,
    upper: number,
    division: positive,
    readable: v.pipe(positive, v.maxValue(1, 'is more than a division')),
    accuracy: accuracySchema,
    raises: v.optional(v.picklist(['clockwise', 'counter-clockwise'], 'is no way')),
    medium: v.optional(v.picklist(['water', 'air', 'refrigerant', 'any'], 'is no medium')),
    serial: v.optional(word),
    certificate: v.optional(word),
    due: v.optional(day),
    column_C: v.optional(v.pipe(number, v.minValue(0, 'is frozen'), v.maxValue(60, 'is no column'))),
    check: v.optional(
      v.object({ day, points: most(v.object({ at: number, error: number, u: number }), 200) }),
    ),
    standing: v.optional(
      v.object({
        state: v.picklist(['fit', 'restricted', 'failed'], 'is no standing'),
        day,
        because: prose,
      }),
    ),
  }),
  v.check((g) => g.upper > g.lower, 'has a scale that does not rise'),
  v.check((g) => g.division <= g.upper - g.lower, 'has a division wider than its scale'),
  v.check(
    (g) => ['pressure', 'temperature', 'frequency'].includes(unit(g.unit).dimension),
    'shows no pressure',
  ),
) satisfies v.GenericSchema<unknown, Gauge>;

export const priorSchema = v.object({
  perTurn: v.pipe(
    number,
    v.check((n) => n !== 0, 'is no change'),
  ),
  spread: v.pipe(positive, v.maxValue(3, 'is no spread')),
  backlash: v.pipe(number, v.minValue(0, 'is below zero')),
  moves: v.pipe(
    v.array(
      v.object({ setting: word, ratio: number, ratioSpread: v.pipe(number, v.minValue(0, 'is below zero')) }),
    ),
    v.maxLength(20, 'has more than 20 parts'),
  ),
}) satisfies v.GenericSchema<unknown, AdjusterPrior>;

export { most };
