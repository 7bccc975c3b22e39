// The scripted technician over every family, variant and hidden fault: what the product concluded, how often that was right, and
// what must never happen.
import { faultsOf, installation, installed, workedOn } from './installations.mjs';

export const round = (x, digits = 3) => Number(x.toPrecision(digits));

const SEEDS = 50;

export async function technicianFigures(core) {
  const figures = {
    seeds: SEEDS,
    conclusions: {},
    right: { rows: 0, leastOfARow: SEEDS, pooled: 0 },
    unsafeActs: 0,
    inWhileTruthOut: 0,
    meanTurnsToSet: {},
  };
  for (const [id, kind] of installed())
    for (const variant of kind.variants)
      figures.conclusions[variant.name] = await rows(core, id, kind, variant, figures);
  figures.right.pooled = round(figures.right.pooled / (figures.right.rows * SEEDS), 4);
  return figures;
}

/** Fault → what was concluded → how often, for one variant. */
async function rows(core, id, kind, variant, figures) {
  const site = await installation(core, id, variant);
  const { family } = site;
  const table = {};
  for (const fault of ['none', ...family.rig.faults.map((f) => f.id)]) {
    const concluded = {};
    const expected = { ...kind.concludes, ...variant.concludes }[fault];
    let right = 0;
    let turns = 0;
    let set = 0;
    for (let seed = 1; seed <= SEEDS; seed++) {
      const job = workedOn(site, { seed, faults: faultsOf(fault) });
      const codes = family.findings(job.view).map((f) => f.code);
      const said = [job.outcome, ...codes].join(' · ');
      concluded[said] = (concluded[said] ?? 0) + 1;
      if (expected?.some(([outcome, code]) => outcome === job.outcome && (!code || codes.includes(code))))
        right++;
      figures.unsafeActs += job.unsafe.length;
      if (job.outcome === 'set' && job.adjustments > 0) {
        turns += job.adjustments;
        set++;
      }
      for (const [setting, truth] of Object.entries(kind.truths(job))) {
        const { lower = -Infinity, upper = Infinity } = job.view.limits(setting, 'left');
        if (job.view.verdict(setting, 'left')?.word === 'in' && (truth < lower || truth > upper))
          figures.inWhileTruthOut++;
      }
    }
    if (set > 0) figures.meanTurnsToSet[`${variant.name}, ${fault}`] = round(turns / set);
    table[fault] = concluded;
    if (expected) {
      figures.right.rows++;
      figures.right.pooled += right;
      figures.right.leastOfARow = Math.min(figures.right.leastOfARow, right);
      table[fault] = { right, ...concluded };
    }
  }
  return table;
}
