// Clumsy hands and two faults at once, over every family and variant: what is concluded, and whether anything is called in that is out.
import { faultsOf, installation, installed, workedOn } from './installations.mjs';
import { round } from './technician.mjs';

/** As a row of the table is called, and what goes wrong in it. */
const ROWS = (core) => [...core.CLUMSINESS.map((one) => [one, [one]]), ['all at once', core.CLUMSINESS]];

/** A figure may be as far out of its limits as a tenth of a division shows. */
const outOf = (truth, { lower = -Infinity, upper = Infinity }) => truth < lower || truth > upper;

function judge(family, kind, variant, job, row) {
  const { view, outcome } = job;
  const codes = family.findings(view).map((f) => f.code);
  row.jobs++;
  row.outcomes[outcome] = (row.outcomes[outcome] ?? 0) + 1;
  row.unsafeActs += job.unsafe.length;
  for (const [setting, truth] of Object.entries(kind.truths(job)))
    if (view.verdict(setting, 'left')?.word === 'in' && outOf(truth, view.limits(setting, 'left'))) {
      row.inWhileOut++;
      row.where.push(`${variant.name}, ${row.now}: ${setting}`);
    }
  return { outcome, codes };
}

const rightOf = (expected, { outcome, codes }) =>
  expected.some(([o, code]) => o === outcome && (!code || codes.includes(code)));

/** Jobs of every family by every kind of clumsiness: right, in while out, unsafe. */
export async function clumsyFigures(core, seeds = 3, only = () => true) {
  const out = {};
  for (const [name, how] of ROWS(core)) {
    const row = { jobs: 0, right: 0, inWhileOut: 0, unsafeActs: 0, outcomes: {}, where: [] };
    for (const [id, kind] of installed().filter(([id]) => only(id)))
      for (const variant of kind.variants) {
        const site = await installation(core, id, variant);
        const { family } = site;
        const table = { ...kind.concludes, ...variant.concludes };
        for (const [fault, expected] of Object.entries(table))
          for (let seed = 1; seed <= seeds; seed++) {
            row.now = `${fault} ${seed}`;
            try {
              const manner = core.clumsy(how, seed * 7919 + fault.length);
              const job = workedOn(site, { seed, faults: faultsOf(fault) }, manner);
              const came = judge(family, kind, variant, job, row);
              if (rightOf(expected, came)) row.right++;
            } catch (e) {
              row.threw = (row.threw ?? 0) + 1;
              row.says = String(e.message ?? e).slice(0, 90);
            }
          }
      }
    row.right = round(row.right / row.jobs);
    delete row.now;
    out[name] = row;
  }
  return out;
}

/** Two hidden faults at once: one of them is concluded, and nothing is called in that is out. */
export async function pairFigures(core, seeds = 2, only = () => true) {
  const row = { jobs: 0, right: 0, inWhileOut: 0, unsafeActs: 0, outcomes: {}, where: [] };
  for (const [id, kind] of installed().filter(([id]) => only(id)))
    for (const variant of kind.variants) {
      const site = await installation(core, id, variant);
      const { family } = site;
      const table = { ...kind.concludes, ...variant.concludes };
      const faults = Object.keys(table).filter((f) => f !== 'none');
      for (const [i, a] of faults.entries())
        for (const b of faults.slice(i + 1))
          for (let seed = 1; seed <= seeds; seed++) {
            row.now = `${a} and ${b}, ${seed}`;
            const job = workedOn(site, { seed, faults: [a, b] });
            const came = judge(family, kind, variant, job, row);
            if (rightOf([...(table[a] ?? []), ...(table[b] ?? [])], came)) row.right++;
          }
    }
  row.right = round(row.right / row.jobs);
  delete row.now;
  return row;
}

/**
 * Faults at half and at one and a half of their usual size. What is so small that the installation stands within its limits is rightly
 * left, or set, whether or not it was named.
 */
export async function sizeFigures(core, size, seeds = 4, only = () => true) {
  const row = { jobs: 0, right: 0, inWhileOut: 0, unsafeActs: 0, outcomes: {}, where: [], wrong: {} };
  for (const [id, kind] of installed().filter(([id]) => only(id)))
    for (const variant of kind.variants) {
      const site = await installation(core, id, variant);
      const { family } = site;
      for (const [fault, expected] of Object.entries({ ...kind.concludes, ...variant.concludes })) {
        if (fault === 'none') continue;
        for (let seed = 1; seed <= seeds; seed++) {
          row.now = `${fault} ${seed}`;
          const job = workedOn(site, { seed, faults: [fault], size });
          const came = judge(family, kind, variant, job, row);
          const within =
            ['set', 'left-as-found'].includes(came.outcome) &&
            Object.entries(kind.truths(job)).every(
              ([s, truth]) => !Number.isFinite(truth) || !outOf(truth, job.view.limits(s, 'left')),
            );
          if (rightOf(expected, came) || within) row.right++;
          else {
            const at = `${variant.name}, ${fault}: ${[came.outcome, ...came.codes].join(' · ')}`;
            row.wrong[at] = (row.wrong[at] ?? 0) + 1;
          }
        }
      }
    }
  row.right = round(row.right / row.jobs);
  delete row.now;
  return row;
}
