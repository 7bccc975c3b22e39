import { describe, expect, it, jest } from '@jest/globals';
import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import type { Problem } from '@firm-needle/contract';
import { RecordDialog, typedLine, typedNumber, type FieldSpec, type Fields } from './RecordDialog.tsx';

const FIELDS: readonly FieldSpec<Fields>[] = [
  { name: 'name', label: 'Name', needed: 'Type a name.' },
  { name: 'height', label: 'Height', kind: 'number' },
  {
    name: 'unit',
    label: 'Unit',
    kind: [
      ['', 'any'],
      ['bar', 'bar'],
    ],
  },
];
const VALUES: Fields = { name: 'Mill', height: '12', unit: '' };
const conflict = (name: string, version: number): Problem => ({
  status: 409,
  code: 'moved-on',
  detail: 'Somebody changed this site meanwhile.',
  current: { name, height: 12, version },
});

function open(answer: (values: Fields, version: number) => Problem | undefined, values = VALUES) {
  const onKeep = jest.fn<(v: Fields, version: number, taken?: unknown) => Promise<Problem | undefined>>(
    async (v, version) => answer(v, version),
  );
  const onClose = jest.fn();
  render(
    <RecordDialog
      title="A site"
      fields={FIELDS}
      values={values}
      version={3}
      onKeep={onKeep}
      shown={(c) => {
        const now = c as { name: string; height: number; version: number };
        return { values: { name: now.name, height: String(now.height), unit: '' }, version: now.version };
      }}
      onClose={onClose}
    />,
  );
  return { onKeep, onClose };
}
const type = (label: string, text: string): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { value: text } });
};
const keep = (): void => {
  fireEvent.click(screen.getByRole('button', { name: 'Keep it' }));
};

describe('a record as it is entered', () => {
  it('is kept as one version more than what was loaded, and closes', async () => {
    const { onKeep, onClose } = open(() => undefined);
    type('Name', 'Old Mill');
    keep();
    await waitFor(() => expect(onClose).toHaveBeenCalledTimes(1));
    expect(onKeep.mock.calls).toEqual([[{ ...VALUES, name: 'Old Mill' }, 4]]);
  });

  it('asks for what is needed and for numbers before anything is sent', async () => {
    const { onKeep } = open(() => undefined);
    type('Name', '   ');
    type('Height', 'high');
    keep();
    expect(await screen.findByText('Type a name.')).toBeTruthy();
    expect(screen.getByLabelText('Height').getAttribute('aria-invalid')).toBe('true');
    expect(onKeep).not.toHaveBeenCalled();
    type('Name', 'M');
    type('Height', '1200,5');
    keep();
    await waitFor(() => expect(onKeep).toHaveBeenCalledTimes(1));
  });

  it('has what the server finds wrong at its field, keeps what was typed, and can be sent again', async () => {
    let refuse = true;
    const { onClose } = open(() =>
      refuse
        ? {
            status: 422,
            code: 'not-valid',
            detail: 'height: is over 5500 m',
            errors: [{ field: 'height', message: 'is over 5500 m' }],
          }
        : undefined,
    );
    type('Height', '9000');
    keep();
    expect(await screen.findByText('is over 5500 m')).toBeTruthy();
    expect((screen.getByLabelText('Height') as HTMLInputElement).value).toBe('9000');
    expect(onClose).not.toHaveBeenCalled();
    refuse = false;
    keep();
    await waitFor(() => expect(onClose).toHaveBeenCalled());
  });

  it('says what is wrong with the whole of it, where no field is at fault', async () => {
    open(() => ({ status: 409, code: 'job-open', detail: 'A job is open there.', remedy: 'Sign it first.' }));
    keep();
    const alert = await screen.findByRole('alert');
    expect(alert.textContent).toMatch(/A job is open there\..*Sign it first\./);
  });

  it('shows what somebody else made of it; mine goes over it only when I say so, as the version after theirs', async () => {
    const { onKeep, onClose } = open((_, version) => (version < 8 ? conflict('Their Mill', 7) : undefined));
    type('Name', 'My Mill');
    keep();
    const alert = await screen.findByRole('alert');
    expect(within(alert).getByText('theirs: Their Mill · yours: My Mill')).toBeTruthy();
    expect(onClose).not.toHaveBeenCalled();
    fireEvent.click(within(alert).getByRole('button', { name: 'Keep mine over it' }));
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(onKeep.mock.calls.map(([v, n]) => [v['name'], n])).toEqual([
      ['My Mill', 4],
      ['My Mill', 8],
    ]);
  });

  it('takes theirs, and what is changed then is changed from it', async () => {
    const { onKeep } = open((_, version) => (version < 8 ? conflict('Their Mill', 7) : undefined));
    type('Name', 'My Mill');
    keep();
    fireEvent.click(await screen.findByRole('button', { name: 'Take theirs' }));
    expect((screen.getByLabelText('Name') as HTMLInputElement).value).toBe('Their Mill');
    expect(screen.queryByRole('alert')).toBeNull();
    type('Height', '15');
    keep();
    await waitFor(() => expect(onKeep).toHaveBeenCalledTimes(2));
    // And what stands in no field is known to be theirs.
    expect(onKeep.mock.calls[1]).toEqual([
      { name: 'Their Mill', height: '15', unit: '' },
      8,
      conflict('Their Mill', 7).current,
    ]);
  });

  it('is sent once, however often the button is pressed', async () => {
    let answer: (p: Problem | undefined) => void = () => undefined;
    const onKeep = jest.fn(() => new Promise<Problem | undefined>((r) => (answer = r)));
    render(
      <RecordDialog
        title="x"
        fields={FIELDS}
        values={VALUES}
        version={0}
        onKeep={onKeep}
        onClose={() => undefined}
      />,
    );
    keep();
    await waitFor(() => expect(onKeep).toHaveBeenCalledTimes(1));
    keep();
    keep();
    answer(undefined);
    await new Promise((r) => setTimeout(r, 20));
    expect(onKeep).toHaveBeenCalledTimes(1);
  });
});

describe('what was typed', () => {
  it('is a number or none, a line or none', () => {
    expect([
      typedNumber('12,5'),
      typedNumber(' 7 '),
      typedNumber(''),
      typedNumber(undefined),
      typedNumber('x'),
    ]).toEqual([12.5, 7, null, null, null]);
    expect([typedLine('  a b '), typedLine('   '), typedLine(undefined)]).toEqual(['a b', null, null]);
  });
});
