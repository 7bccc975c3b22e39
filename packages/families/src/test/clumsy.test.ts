// Hands that slip, eyes that misread, somebody in a hurry: whatever comes of a job, nothing is called in that is out, nothing throws,
// no turn is offered where none may be made, and the relief is not lifted. The bench counts the same over all faults.
import { describe, expect, it } from '@jest/globals';
import { CLUMSINESS, clumsy, type Clumsiness } from '@firm-needle/core/script';
import { faultsOf, installed, workedOn } from '../define/kit.js';
import { loadFamily } from '../registry.js';
import { FOLDERS, kitOf } from './kitOf.js';

const ROWS: readonly (readonly [string, readonly Clumsiness[]])[] = [
  ...CLUMSINESS.map((one) => [one, [one]] as const),
  ['all at once', CLUMSINESS],
];

describe.each(FOLDERS)('%s', (id) => {
  it.each(ROWS)('%s', async (_, how) => {
    const family = await loadFamily(id);
    const kit = kitOf(id);
    const wrong: string[] = [];
    const [variant] = kit.variants;
    if (!variant) throw new Error('no variant');
    const site = installed(family, kit, variant);
    const faults = ['none', ...Object.keys({ ...kit.concludes, ...variant.concludes })].slice(0, 4);
    for (const [n, fault] of faults.entries()) {
      const seed = 11 + n;
      const job = workedOn(site, { seed, faults: faultsOf(fault) }, clumsy(how, 97 * seed));
      const at = `${fault}, ${seed}`;
      wrong.push(...job.unsafe.map((u) => `${at}: ${u}`));
      for (const [setting, truth = NaN] of Object.entries(kit.truths(job))) {
        const { lower = -Infinity, upper = Infinity } = job.view.limits(setting, 'left');
        if (job.view.verdict(setting, 'left')?.word === 'in' && !(truth >= lower && truth <= upper))
          wrong.push(`${at}: ${setting} is called in, and is not`);
      }
    }
    expect(wrong).toEqual([]);
  });
});
