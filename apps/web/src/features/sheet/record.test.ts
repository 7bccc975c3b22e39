import { describe, expect, it } from '@jest/globals';
import { sheetOf, type Sheet } from '@firm-needle/core/family';
import { toCanonical } from '@firm-needle/core/quantity';
import { documentOf, inUnit, listed, summaryOf, tableOf } from '@firm-needle/core/record';
import { AT_THE_NUT, done, openJob, reading, zeroed } from '../../testing.tsx';

const FOUND = [
  done('cautions', { cautions: 'read' }),
  zeroed('system', 'zero-system'),
  reading('cutIn', 38, 'found-cut-in', 'found', '1.1'),
  reading('cutOut', 58, 'found-cut-out', 'found', '1.1'),
];
const said = { day: (iso: string) => iso.slice(0, 10), time: (iso: string) => iso };
const made = async (): Promise<Sheet> => {
  const job = await openJob(FOUND);
  return sheetOf(job.family, job.view);
};
const ending = { outcome: undefined, unproved: false, day: said.day };

describe('the three sentences', () => {
  it('say what was outside its limits with its figure, and what was within by name', async () => {
    const [found, work, next] = summaryOf(await made(), ending);
    expect(found).toBe(
      'Found outside limits: cut-in 38.0 psi and cut-out 58.0 psi; within limits: differential.',
    );
    expect(work).toBe('Nothing was adjusted. The work is not signed yet.');
    expect(next).toBe('When to come back is said once it is signed.');
  });

  it('say how it ended, why it was left, that it is not proved, and when to come back', async () => {
    const sheet = await made();
    const [, work, next] = summaryOf(sheet, {
      ...ending,
      outcome: 'Unfinished',
      leaving: 'The pump would not start',
      unproved: true,
      next: { kind: 'rule', day: '2031-01-01', because: 'yearly' },
    });
    expect(work).toBe('Nothing was adjusted. Unfinished, but not proved: the pump would not start.');
    expect(next).toBe('To be looked at again by 2031-01-01: yearly.');
    expect(summaryOf(sheet, { ...ending, outcome: 'Set and proved' })[2]).toBe(
      'No later date stands on this sheet.',
    );
  });

  it('say that nothing was read, where nothing was', async () => {
    const { family, view } = await openJob([]);
    expect(summaryOf(sheetOf(family, view), ending)[0]).toBe('Nothing was read as it was found.');
  });

  it('list names as they are spoken', () => {
    expect([[], ['a'], ['a', 'b'], ['a', 'b', 'c']].map(listed)).toEqual(['', 'a', 'a and b', 'a, b and c']);
  });
});

describe('the customer’s unit', () => {
  it('changes figures and the sentences of verdicts, and no verdict', async () => {
    const job = await openJob(FOUND);
    const sheet = sheetOf(job.family, job.view);
    const bar = inUnit(sheet, 'bar', job.view);
    expect(tableOf(bar).unit).toBe('bar');
    expect(tableOf(bar).rows.find((r) => r.setting === 'cutIn')?.found.text).toBe('2.62');
    expect(bar.rows.map((r) => r.found?.verdict?.word)).toEqual(
      sheet.rows.map((r) => r.found?.verdict?.word),
    );
    const row = bar.rows.find((r) => r.setting === 'cutIn');
    expect(row?.found?.verdict?.because).toMatch(
      /^2\.62 bar ± 0\.08 bar is 0\.24 bar below the limit \(2\.86 bar to 3\.07 bar\)\.$/,
    );
    expect(row?.found?.value).toBeCloseTo(toCanonical(38, 'psi'), 6);
  });

  it('leaves what is no pressure, and a unit that is none, as it was', async () => {
    const job = await openJob(FOUND);
    const sheet = sheetOf(job.family, job.view);
    const bar = inUnit(sheet, 'bar', job.view);
    const own = (s: Sheet): unknown => s.rows.filter((r) => r.dimension !== 'pressure');
    expect(own(bar)).toEqual(own(sheet));
    expect(inUnit(sheet, 'L', job.view)).toBe(sheet);
    expect(inUnit(sheet, undefined, job.view)).toBe(sheet);
  });

  it('does not write a pressure that would need a fourth decimal', async () => {
    const job = await openJob(FOUND);
    const sheet = sheetOf(job.family, job.view);
    const small = {
      ...sheet,
      rows: sheet.rows.map((r) => (r.setting === 'cutIn' ? { ...r, unit: 'inH2O', step: 0.1 } : r)),
    };
    const mega = inUnit(small, 'MPa', job.view).rows.find((r) => r.setting === 'cutIn');
    expect(mega?.unit).toBe('inH2O');
  });
});

describe('the record of a job', () => {
  it('names what was photographed, until it is withdrawn, and keeps its order', async () => {
    const hash = 'ab'.repeat(32);
    const photo = { kind: 'photo' as const, hash, width: 800, height: 600, text: 'The plate' };
    const job = await openJob([...FOUND, photo]);
    const doc = documentOf(job.family, job.view, { organisation: 'A Firm', ...said });
    expect(doc.photos).toEqual([{ hash, width: 800, height: 600, text: 'The plate' }]);
    const keys = doc.sections.map((s) => s.key);
    expect(keys.indexOf('found')).toBeLessThan(keys.indexOf('adjusted'));
    expect(keys.at(-1)).toBe('plate');
    const without = await openJob([
      ...FOUND,
      photo,
      { kind: 'correct', corrects: 'e5', reason: 'wrong one' },
    ]);
    expect(documentOf(without.family, without.view, { organisation: 'A Firm', ...said }).photos).toEqual([]);
  });

  it('sets aside a photo whose hash is none, and one that came after the signature', async () => {
    const bad = { kind: 'photo' as const, hash: 'nothing', width: 1, height: 1, text: '' };
    const { view } = await openJob([bad]);
    expect(view.state.photos).toEqual([]);
    expect(view.state.aside[0]?.reason).toMatch(/hash/);
  });

  it('says the plate in the customer’s unit beside its own', async () => {
    const job = await openJob(FOUND);
    const plate = (unit?: string): string | undefined =>
      documentOf(job.family, job.view, { organisation: 'A Firm', unit, ...said })
        .sections.find((s) => s.key === 'plate')
        ?.items[0]?.text.split(' · ')
        .find((t) => t.startsWith('Relief opens'));
    expect(plate()).toBe('Relief opens 81 psi');
    expect(plate('bar')).toBe('Relief opens 81 psi (5.58 bar)');
  });

  it('tells what was looked at, and not what was decided', async () => {
    const { family, view } = await openJob(AT_THE_NUT);
    const doc = documentOf(family, view, { organisation: 'A Firm', ...said });
    const seen = doc.sections.find((s) => s.key === 'seen')?.items.map((i) => `${i.strong}: ${i.text}`) ?? [];
    expect(seen).toContain('Holds with no draw: It holds');
    expect(seen.filter((s) => s.startsWith('Decide'))).toEqual([]);
  });
});
