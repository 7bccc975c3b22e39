import type { Sheet, SheetFigure, SheetRow } from '../family/index.js';
import type { JobView } from '../procedure/index.js';
import { findUnit, intervalFromCanonical, intervalToCanonical, showWithUnit } from '../quantity/index.js';
import { decide } from '../verdict/index.js';

/** A pressure that would need more decimals in the customer’s unit stays as it was worked. */
const MOST_DECIMALS = 3;

/** The step of a row in another unit: the power of ten that is nearest; undefined where it would be too fine to read. */
function stepIn(row: SheetRow, unit: string): number | undefined {
  const step = intervalFromCanonical(intervalToCanonical(row.step ?? 0.1, row.unit), unit);
  const decimals = Math.max(0, Math.round(-Math.log10(step)));
  return decimals > MOST_DECIMALS ? undefined : 10 ** -decimals;
}

/**
 * The sheet with its gauge pressures in the customer's unit: figures, and the sentences of their verdicts. What is no pressure, and what
 * is too small to be read in that unit, stays as it was worked; no verdict changes.
 * @param unit a pressure unit's id; anything else leaves the sheet as it is
 */
export function inUnit(sheet: Sheet, unit: string | undefined, job: Pick<JobView, 'limits' | 'rule'>): Sheet {
  if (unit === undefined || findUnit(unit)?.dimension !== 'pressure') return sheet;
  return {
    ...sheet,
    rows: sheet.rows.map((row) => {
      const step = row.dimension === 'pressure' && row.unit !== unit ? stepIn(row, unit) : undefined;
      if (step === undefined) return row;
      const say = (v: number): string => showWithUnit(v, { unit, step });
      const resaid = (figure: SheetFigure | undefined, when: 'found' | 'left'): SheetFigure | undefined => {
        if (!figure?.verdict) return figure;
        const again = decide(figure.value, figure.U, job.limits(row.setting, when), job.rule, say);
        // A sheet signed under another rule of arithmetic keeps its own words.
        return again.word === figure.verdict.word ? { ...figure, verdict: again } : figure;
      };
      const found = resaid(row.found, 'found');
      const left = resaid(row.left, 'left');
      return { ...row, unit, step, ...(found ? { found } : {}), ...(left ? { left } : {}) };
    }),
  };
}
