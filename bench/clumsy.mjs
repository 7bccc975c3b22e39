// Clumsy hands and two faults at once, over every family and variant: what is concluded, and whether anything is called in that is out.
import { faultsOf, installation, installed, workedOn } from './installations.mjs';
import { added, everyVariant, shared } from './pool.mjs';
import { round } from './technician.mjs';

/** A figure may be as far out of its limits as a tenth of a division shows. */
const outOf = (truth, { lower = -Infinity, upper = Infinity }) => truth < lower || truth > upper;

const newRow = () => ({ jobs: 0, right: 0, inWhileOut: 0, unsafeActs: 0, outcomes: {}, where: [] });

function judge(family, kind, called, job, row) {
  const { view, outcome } = job;
  const codes = family.findings(view).map((f) => f.code);
  row.jobs++;
  row.outcomes[outcome] = (row.outcomes[outcome] ?? 0) + 1;
  row.unsafeActs += job.unsafe.length;
  for (const [setting, truth] of Object.entries(kind.truths(job)))
    if (view.verdict(setting, 'left')?.word === 'in' && outOf(truth, view.limits(setting, 'left'))) {
      row.inWhileOut++;
      row.where.push(`${called}: ${setting}`);
    }
  return { outcome, codes };
}

const rightOf = (expected, { outcome, codes }) =>
  expected.some(([o, code]) => o === outcome && (!code || codes.includes(code)));

/** One variant of a kind as it is installed, and what is right to conclude there of each fault. */
async function at(core, id, which) {
  const kind = new Map(installed()).get(id);
  const variant = kind.variants[which];
  const site = await installation(core, id, variant);
  return { kind, variant, site, family: site.family, table: { ...kind.concludes, ...variant.concludes } };
}

/** The counts of all variants as one row, with the share that was right. */
async function summed(figures, rest, only) {
  const rows = await shared(
    './clumsy.mjs',
    figures,
    everyVariant(only).map((v) => [...v, ...rest]),
  );
  const row = rows.reduce(added, newRow());
  return { ...row, right: round(row.right / row.jobs) };
}

/** Jobs of every family by every kind of clumsiness: right, in while out, unsafe. */
export async function clumsyFigures(core, seeds = 3, only = () => true) {
  const out = {};
  for (const name of [...core.CLUMSINESS, 'all at once'])
    out[name] = await summed('clumsyOf', [name, seeds], only);
  return out;
}

export async function clumsyOf(core, id, which, name, seeds) {
  const row = newRow();
  const { kind, variant, site, family, table } = await at(core, id, which);
  const how = name === 'all at once' ? core.CLUMSINESS : [name];
  for (const [fault, expected] of Object.entries(table))
    for (let seed = 1; seed <= seeds; seed++)
      try {
        const manner = core.clumsy(how, seed * 7919 + fault.length);
        const job = workedOn(site, { seed, faults: faultsOf(fault) }, manner);
        const came = judge(family, kind, `${variant.name}, ${fault} ${seed}`, job, row);
        if (rightOf(expected, came)) row.right++;
      } catch (e) {
        row.threw = (row.threw ?? 0) + 1;
        row.says = String(e.message ?? e).slice(0, 90);
      }
  return row;
}

/** Two hidden faults at once: one of them is concluded, and nothing is called in that is out. */
export const pairFigures = (core, seeds = 2, only = () => true) => summed('pairsOf', [seeds], only);

export async function pairsOf(core, id, which, seeds) {
  const row = newRow();
  const { kind, variant, site, family, table } = await at(core, id, which);
  const faults = Object.keys(table).filter((f) => f !== 'none');
  for (const [i, a] of faults.entries())
    for (const b of faults.slice(i + 1))
      for (let seed = 1; seed <= seeds; seed++) {
        const job = workedOn(site, { seed, faults: [a, b] });
        const came = judge(family, kind, `${variant.name}, ${a} and ${b}, ${seed}`, job, row);
        if (rightOf([...(table[a] ?? []), ...(table[b] ?? [])], came)) row.right++;
      }
  return row;
}

/**
 * Faults at half and at one and a half of their usual size. What is so small that the installation stands within its limits is rightly
 * left, or set, whether or not it was named.
 */
export const sizeFigures = (core, size, seeds = 4, only = () => true) =>
  summed('sizesOf', [size, seeds], only);

export async function sizesOf(core, id, which, size, seeds) {
  const row = { ...newRow(), wrong: {} };
  const { kind, variant, site, family, table } = await at(core, id, which);
  for (const [fault, expected] of Object.entries(table)) {
    if (fault === 'none') continue;
    for (let seed = 1; seed <= seeds; seed++) {
      const job = workedOn(site, { seed, faults: [fault], size });
      const came = judge(family, kind, `${variant.name}, ${fault} ${seed}`, job, row);
      const within =
        ['set', 'left-as-found'].includes(came.outcome) &&
        Object.entries(kind.truths(job)).every(
          ([s, truth]) => !Number.isFinite(truth) || !outOf(truth, job.view.limits(s, 'left')),
        );
      if (rightOf(expected, came) || within) row.right++;
      else {
        const said = `${variant.name}, ${fault}: ${[came.outcome, ...came.codes].join(' · ')}`;
        row.wrong[said] = (row.wrong[said] ?? 0) + 1;
      }
    }
  }
  return row;
}
