import { describe, expect, it } from '@jest/globals';
import { give, replan, sheetOf, typeSetting } from '@firm-needle/core/family';
import { tableOf } from '@firm-needle/core/record';
import { expectOk } from '@firm-needle/core/result';
import { cleanup, screen, within } from '@testing-library/react';
import { done, drawn, openJob, reading, zeroed } from '../../testing.tsx';
import { Reasons, SheetDocument, SheetTable, Turns } from './SheetView.tsx';

const FOUND = [
  done('cautions', { cautions: 'read' }),
  zeroed('system', 'zero-system'),
  zeroed('air', 'zero-air'),
  reading('cutIn', 38, 'found-cut-in', 'found', '1.1'),
  reading('cutOut', 58, 'found-cut-out', 'found', '1.1'),
  reading('cutIn', 38, 'found-cut-in', 'found', '1.2'),
  reading('cutOut', 58, 'found-cut-out', 'found', '1.2'),
  reading('precharge', 41, 'found-precharge', 'found', '1'),
];
const TURNED = {
  kind: 'turn' as const,
  adjuster: 'range',
  amount: 2,
  text: '2 turns clockwise',
  advised: 2,
  at: { key: 'turn-range', pass: '1.1', phase: 'adjust' as const },
};

const row = (title: string): HTMLElement => screen.getByRole('row', { name: new RegExp(`^${title}`) });
const cells = (title: string): string[] =>
  within(row(title))
    .getAllByRole('cell')
    .map((c) => (c.textContent ?? '').trim());

describe('sheet', () => {
  it('shows target, found and left, and a bound where there is only one', async () => {
    const job = await openJob(FOUND);
    drawn(<SheetTable table={tableOf(sheetOf(job.family, job.view))} />);
    expect(cells('Cut-in')).toEqual(['43', '38.0', '·']);
    expect(cells('Differential')).toEqual(['20', '20.0', '·']);
    expect(cells('Run time, s')).toEqual(['≥ 60', '·', '·']);
    expect(within(row('Cut-in')).getByRole('img', { name: 'out' })).toBeTruthy();
    expect(within(row('Differential')).getByRole('img', { name: 'in' })).toBeTruthy();
  });

  it('says due for what was moved and not read, and for the precharge that follows cut-in', async () => {
    const job = await openJob([...FOUND, TURNED]);
    drawn(<SheetTable table={tableOf(sheetOf(job.family, job.view))} />);
    expect(cells('Cut-in')[2]).toBe('due');
    expect(cells('Cut-out')[2]).toBe('due');
    expect(cells('Precharge')[2]).toBe('due');
  });

  it('gives each verdict its reason and, on demand, its budget to the last line', async () => {
    const job = await openJob(FOUND);
    drawn(<Reasons sheet={sheetOf(job.family, job.view)} side="found" />);
    const item = screen.getAllByRole('listitem')[0];
    if (!item) throw new Error('no reason');
    expect(item.textContent).toContain(
      'Cut-in 38.0 psi ± 0.9 psi is 3.5 psi below the limit (41.5 psi to 44.5 psi).',
    );
    const lines = [...item.querySelectorAll('tbody th')].map((th) => th.textContent?.split(' ')[0]);
    expect(lines).toEqual(['Accuracy', 'Resolution', 'Zero', 'Repeatability', 'Catching']);
    expect(item.querySelector('tfoot')?.textContent).toMatch(/Expanded, k = 2\.0\d± 0\.\d\d psi/);
  });

  it('lists what each turn did, and the net of all', async () => {
    const job = await openJob([
      ...FOUND,
      TURNED,
      reading('cutOut', 62.5, 'adjust-cut-out', 'adjust', '1.1'),
      reading('cutIn', 42.5, 'adjust-cut-in', 'adjust', '1.1'),
    ]);
    drawn(<Turns sheet={sheetOf(job.family, job.view)} />);
    expect(screen.getAllByRole('listitem')[0]?.textContent).toContain(
      'Range nut 2 turns clockwise58.0 → 62.538.0 → 42.5',
    );
    expect(screen.getByText('Range nut, net since found: 2 turns clockwise')).toBeTruthy();
  });

  it('prints what was frozen at the signature, not what is computed today', async () => {
    const before = await openJob(FOUND);
    const frozen = { ...sheetOf(before.family, before.view), because: 'as it was judged then' };
    const job = await openJob([
      ...FOUND,
      {
        kind: 'sign',
        outcome: 'unfinished',
        by: 'A Technician',
        coreVersion: '0',
        result: { rows: 'forged' },
      },
    ]);
    drawn(
      <SheetDocument
        family={job.family}
        job={job.view}
        seal={{
          whole: true,
          head: 'ab'.repeat(32),
          length: 10,
          signedAt: null,
          fingerprint: 'abab abab abab abab',
        }}
        organisation="A Firm"
        frozen={frozen}
        objections={['Cut-in is due.']}
      />,
    );
    expect(screen.getByText('Signed, and not proved.')).toBeTruthy();
    expect(screen.getByText('Cut-in is due.')).toBeTruthy();
    expect(screen.getByText(/as it was judged then/)).toBeTruthy();
    expect(screen.getByText('Unfinished, not proved')).toBeTruthy();
    expect(screen.getByText('Record whole: 10 entries, seal abab abab abab abab.')).toBeTruthy();
  });

  it('says plainly that a record is broken, or that nobody could check', async () => {
    const job = await openJob(FOUND);
    const { unmount } = drawn(
      <SheetDocument
        family={job.family}
        job={job.view}
        seal={{ whole: false, signedAt: null, at: 4, because: 'Event 4 is missing.', fingerprint: '' }}
        organisation="A Firm"
      />,
    );
    expect(screen.getByText('Record broken at entry 4: Event 4 is missing.')).toBeTruthy();
    unmount();
    drawn(<SheetDocument family={job.family} job={job.view} seal={undefined} organisation="A Firm" />);
    expect(screen.getByText(/not checked while the server cannot be reached/)).toBeTruthy();
    expect(screen.getByText('Not signed yet')).toBeTruthy();
  });

  it('shows corrections beside the originals, and what was skipped', async () => {
    const job = await openJob([
      ...FOUND,
      {
        kind: 'correct',
        corrects: 'e4',
        reason: 'misread',
        body: reading('cutIn', 39, 'found-cut-in', 'found', '1.1'),
      },
      { kind: 'skip', reason: 'no time to watch', at: { key: 'rest', pass: '1' } },
    ]);
    drawn(<SheetDocument family={job.family} job={job.view} seal={undefined} organisation="A Firm" />);
    expect(screen.getByText('Corrected: read 38 (misread)')).toBeTruthy();
    expect(screen.getByText(/^Skipped [a-z ,]+: no time to watch$/)).toBeTruthy();
    expect(cells('Cut-in')[1]).toBe('38.5');
  });

  it('says how the plan was changed in the job, and why; nothing where it was not', async () => {
    const before = await openJob(FOUND);
    const draft = give(before.view.plan, 'cutIn', expectOk(typeSetting(before.family, 'cutIn', '40 psi')));
    const body = expectOk(replan(before.family, before.view, draft, 'by the label'));
    const job = await openJob([...FOUND, body]);
    drawn(<SheetDocument family={job.family} job={job.view} seal={undefined} organisation="A Firm" />);
    expect(screen.getByRole('heading', { name: 'Plan changed in the job' })).toBeTruthy();
    expect(screen.getByText(/^Cut-in 43 psi to 40 psi; .*Because: by the label$/)).toBeTruthy();
    expect(cells('Cut-in')[0]).toBe('40');
    cleanup();
    drawn(<SheetDocument family={before.family} job={before.view} seal={undefined} organisation="A Firm" />);
    expect(screen.queryByRole('heading', { name: 'Plan changed in the job' })).toBeNull();
  });
});
