// The scripted technician over every family, variant and hidden fault: what the product concluded, how often that was right, and
// what must never happen.
import { faultsOf, installation, installed, workedOn } from './installations.mjs';
import { added, everyVariant, shared } from './pool.mjs';

export const round = (x, digits = 3) => Number(x.toPrecision(digits));

const SEEDS = 50;

export async function technicianFigures() {
  const all = await shared('./technician.mjs', 'technicianOf', everyVariant());
  const { conclusions, right, unsafeActs, inWhileTruthOut, meanTurnsToSet } = all.reduce(added);
  const least = Math.min(...right.map((r) => r.right));
  return {
    seeds: SEEDS,
    conclusions,
    right: {
      rows: right.length,
      leastOfARow: least,
      least: right.filter((r) => r.right === least),
      pooled: round(right.reduce((sum, r) => sum + r.right, 0) / (right.length * SEEDS), 4),
    },
    unsafeActs,
    inWhileTruthOut,
    meanTurnsToSet,
  };
}

/** One variant: fault → what was concluded → how often. */
export async function technicianOf(core, id, which) {
  const kind = new Map(installed()).get(id);
  const variant = kind.variants[which];
  const site = await installation(core, id, variant);
  const { family } = site;
  const table = {};
  const figures = {
    conclusions: { [variant.name]: table },
    right: [],
    unsafeActs: 0,
    inWhileTruthOut: [],
    meanTurnsToSet: {},
  };
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
          figures.inWhileTruthOut.push(`${variant.name}, ${fault} ${seed}: ${setting}`);
      }
    }
    if (set > 0) figures.meanTurnsToSet[`${variant.name}, ${fault}`] = round(turns / set);
    table[fault] = concluded;
    if (expected) {
      figures.right.push({ row: `${variant.name}, ${fault}`, right });
      table[fault] = { right, ...concluded };
    }
  }
  return figures;
}
