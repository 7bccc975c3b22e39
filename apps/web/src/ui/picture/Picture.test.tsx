import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { screen } from '@testing-library/react';
import type { Family, LadderPart } from '@firm-needle/core/family';
import { drawn, openJob, psi, reading } from '../../testing.tsx';
import { Picture } from './Picture.tsx';

/** The picture has its size from the page: here there is none, so it is told. */
class Sized {
  constructor(private readonly told: ResizeObserverCallback) {}
  observe(): void {
    const entry = { contentRect: { width: 600, height: 400 } } as ResizeObserverEntry;
    this.told([entry], this as unknown as ResizeObserver);
  }
  unobserve = (): void => undefined;
  disconnect = (): void => undefined;
}
const own = globalThis.ResizeObserver;
beforeEach(() => void (globalThis.ResizeObserver = Sized as unknown as typeof ResizeObserver));
afterEach(() => void (globalThis.ResizeObserver = own));

const TWO: readonly LadderPart[] = [
  { part: 'mark', setting: 'cutIn', value: psi(43), title: 'Cut-in', movable: true },
  { part: 'mark', setting: 'precharge', value: psi(41), title: 'Precharge', movable: true, scale: 'air' },
];

async function shown(parts: readonly LadderPart[] | undefined, planning: boolean) {
  const job = await openJob([reading('precharge', 41, 'found-precharge', 'found', '1')]);
  const family: Family = parts ? { ...job.family, ladder: () => parts } : job.family;
  drawn(
    <Picture
      family={family}
      plan={job.view.plan}
      {...(planning ? { onMove: () => undefined } : { job: job.view })}
    />,
  );
  return screen.getAllByRole('group', { name: /ladder/ });
}

describe('the one picture', () => {
  it('has one ladder where everything stands on one scale', async () => {
    const ladders = await shown(undefined, true);
    expect(ladders).toHaveLength(1);
    expect(ladders[0]?.textContent).toContain('Relief 81');
  });

  it('has a ladder for each scale side by side where it is planned on', async () => {
    const ladders = await shown(TWO, true);
    expect(
      ladders.map((l) => [l.textContent?.includes('Cut-in'), l.textContent?.includes('Precharge')]),
    ).toEqual([
      [true, false],
      [false, true],
    ]);
    expect(ladders.map((l) => l.parentElement?.style.left)).toEqual(['0px', '300px']);
  });

  it('has the ladder that is looked at in the work, and nothing of another on it', async () => {
    const ladders = await shown(TWO, false);
    expect(ladders).toHaveLength(1);
    expect(ladders[0]?.textContent).toContain('Precharge');
    expect(ladders[0]?.textContent).not.toContain('Cut-in');
  });
});
