import { describe, expect, it, jest } from '@jest/globals';
import { fireEvent, screen } from '@testing-library/react';
import { AT_THE_NUT, done, drawn, FOUND, openJob } from '../../testing.tsx';
import type { OpenJob } from '../../sync/useJob.ts';
import { DeviceDialog, DevicePanel, TurnButton, useDrawn } from './Drawn.tsx';

const Panel = ({ job }: { job: OpenJob }) => <DevicePanel drawn={useDrawn(job)} />;
const Small = ({ job, onOpen }: { job: OpenJob; onOpen: () => void }) => (
  <TurnButton drawn={useDrawn(job)} onOpen={onOpen} />
);
const Whole = ({ job, onClose }: { job: OpenJob; onClose: () => void }) => (
  <DeviceDialog drawn={useDrawn(job)} onClose={onClose} />
);
const names = (): readonly string[] =>
  [...document.querySelectorAll('svg text')].map((t) => t.textContent ?? '');

describe('the device beside the work', () => {
  it('has the nut of the present turn inked and named, and says how far and which way', async () => {
    const job = await openJob(AT_THE_NUT);
    expect(job.offered.now?.step.key).toMatch(/turn|range/);
    drawn(<Panel job={job} />);
    expect(names()).toEqual(['Range nut']);
    expect(document.querySelectorAll('.part.lit')).toHaveLength(1);
    const said = screen.getByRole('img').getAttribute('aria-label') ?? '';
    expect(said).toMatch(/Touched now: range nut\. Moved: .+ clockwise, seen from the top of the nut\./);
    expect(screen.getByText(/turns? clockwise$/)).toBeTruthy();
    expect(document.querySelector('.turn-drawn path.way')?.getAttribute('d')).toMatch(/^M0\.00 -/);
  });

  it('lights the gauge that is read, and draws no turn', async () => {
    const job = await openJob(FOUND.slice(0, -1));
    expect(job.offered.now?.step.kind).toBe('read');
    drawn(<Panel job={job} />);
    expect(names()).toContain('Water gauge');
    expect(document.querySelector('.turn-drawn')).toBeNull();
  });

  it('names everything where the step touches nothing of it', async () => {
    const job = await openJob([]);
    drawn(<Panel job={job} />);
    expect(names().length).toBeGreaterThan(5);
    expect(document.querySelectorAll('.part.lit')).toHaveLength(0);
  });

  it('in the hand is the turn alone, and a tap opens the whole with every name', async () => {
    const job = await openJob(AT_THE_NUT);
    const open = jest.fn();
    drawn(<Small job={job} onOpen={open} />);
    fireEvent.click(screen.getByRole('button', { name: 'Show the device' }));
    expect(open).toHaveBeenCalledTimes(1);
    const close = jest.fn();
    drawn(<Whole job={job} onClose={close} />);
    expect(names()).toEqual(
      expect.arrayContaining(['Range nut', 'Differential nut', 'Disconnect', 'Air valve']),
    );
    fireEvent.click(screen.getByRole('button', { name: 'Close' }));
    expect(close).toHaveBeenCalledTimes(1);
  });

  it('lights what an interlock asks for before the step itself', async () => {
    // Somebody put the power back on: the nut waits.
    const job = await openJob([...AT_THE_NUT, done('renew:power=on', { power: 'on' })]);
    const [missing] = job.offered.missing;
    drawn(<Panel job={job} />);
    expect(missing?.fact).toBe('power');
    expect(names()).toContain('Disconnect');
    expect(names()).not.toContain('Range nut');
  });
});
