import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { MOST, tidied, wordsWrong } from '@firm-needle/core/formats';
import { parseNumber } from '@firm-needle/core/quantity';
import type { Problem } from '@firm-needle/contract';
import { useState, type ReactNode } from 'react';
import { Controller, useForm, type Control, type DefaultValues, type FieldPath } from 'react-hook-form';
import { Meanwhile, type Apart } from './Meanwhile.tsx';
import './record.css';

/** What is typed into a record; everything is text until it is kept. */
export type Fields = Record<string, string>;

/** One field of a record. */
export interface FieldSpec<F extends Fields> {
  readonly name: FieldPath<F>;
  readonly label: string;
  readonly hint?: string;
  /** Several lines, a number, a day, one of some, or hidden letters; a line of text where absent. */
  readonly kind?:
    'lines' | 'number' | 'day' | 'password' | readonly (readonly [value: string, title: string])[];
  readonly needed?: string;
  /** Most characters, or the least and the most that a number may be: as on the server, for what is kept until it can be sent. */
  readonly most?: number;
  readonly from?: number;
  readonly to?: number;
  /** Takes the whole width. */
  readonly wide?: boolean;
}

interface Props<F extends Fields> {
  readonly title: string;
  readonly fields: readonly FieldSpec<F>[];
  readonly values: F;
  /** The version that was loaded; 0 for a new record. */
  readonly version: number;
  /**
   * Keeps it as a version; what is wrong comes back.
   * @param taken the record of the server that these values began from, where somebody else's was taken over
   */
  readonly onKeep: (values: F, version: number, taken?: unknown) => Promise<Problem | undefined>;
  /** A record of the server as this form has it, to show what somebody else made of it. */
  readonly shown?: (current: unknown) => { readonly values: F; readonly version: number } | undefined;
  /** What of the record stands in no field, as mine has it and as the server's has it. */
  readonly beside?: (current: unknown) => readonly Apart[];
  /** Somebody else's was taken over: what stands in no field must follow. */
  readonly onTheirs?: (current: unknown) => void;
  readonly keep?: string;
  readonly onClose: () => void;
  /** Beside the fields. */
  readonly also?: ReactNode;
  /** Beside the buttons. */
  readonly acts?: ReactNode;
}

/** A record as it is entered: errors at their fields, and a choice where somebody else was quicker. */
export function RecordDialog<F extends Fields>(props: Props<F>) {
  const { title, fields, values, version, onKeep, shown, keep = 'Keep it', onClose, also, acts } = props;
  const { beside, onTheirs } = props;
  const { control, handleSubmit, reset, getValues } = useForm<F>({
    defaultValues: values as DefaultValues<F>,
  });
  const [problem, setProblem] = useState<Problem>();
  const [from, setFrom] = useState(version);
  const [taken, setTaken] = useState<unknown>();
  const [busy, setBusy] = useState(false);
  const theirs = problem?.code === 'moved-on' ? shown?.(problem.current) : undefined;
  const submit = async (typed: F, as: number): Promise<void> => {
    setBusy(true);
    const wrong = await onKeep(typed, as, taken);
    setBusy(false);
    setProblem(wrong);
    if (!wrong) onClose();
  };
  const refused = (name: string): string | undefined =>
    problem?.errors?.find((e) => e.field === name || e.field.startsWith(`${name}.`))?.message;
  const atFields = fields.some((f) => refused(f.name) !== undefined);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>{title}</DialogTitle>
      <form onSubmit={(e) => void handleSubmit((typed) => submit(typed, from + 1))(e)} noValidate>
        <DialogContent className="record">
          {fields.map((spec) => (
            <RecordField key={spec.name} control={control} spec={spec} refused={refused(spec.name)} />
          ))}
          {also}
          {theirs ? (
            <Meanwhile
              apart={[...apartIn(fields, getValues(), theirs.values), ...(beside?.(problem?.current) ?? [])]}
              onTheirs={() => {
                reset(theirs.values as DefaultValues<F>);
                onTheirs?.(problem?.current);
                setTaken(problem?.current);
                setFrom(theirs.version);
                setProblem(undefined);
              }}
              onMine={() => {
                setFrom(theirs.version);
                void submit(getValues(), theirs.version + 1);
              }}
            />
          ) : (
            problem && (
              <p className="caution record-wide" role="alert">
                <strong>{atFields ? 'Something above is wrong.' : problem.detail}</strong> {problem.remedy}
              </p>
            )
          )}
        </DialogContent>
        <DialogActions>
          {acts}
          <span className="grow" />
          <Button onClick={onClose}>Back</Button>
          <Button type="submit" variant="contained" disabled={busy}>
            {keep}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}

/** The fields that two have otherwise, as they are read: a choice by its title, a password not at all. */
function apartIn<F extends Fields>(fields: readonly FieldSpec<F>[], mine: F, theirs: F): readonly Apart[] {
  const read = ({ name, kind }: FieldSpec<F>, of: F): string => {
    const value = of[name] ?? '';
    const option = typeof kind === 'object' ? kind.find(([v]) => v === value)?.[1] : undefined;
    return (option ?? value) || 'empty';
  };
  return fields
    .filter((f) => f.kind !== 'password' && (mine[f.name] ?? '') !== (theirs[f.name] ?? ''))
    .map((f) => ({ label: f.label, mine: read(f, mine), theirs: read(f, theirs) }));
}

function RecordField<F extends Fields>({
  control,
  spec,
  refused,
}: {
  control: Control<F>;
  spec: FieldSpec<F>;
  refused: string | undefined;
}) {
  const { name, label, hint, kind, needed, wide } = spec;
  const options = typeof kind === 'object' ? kind : undefined;
  return (
    <Controller
      control={control}
      name={name}
      rules={{
        validate: (v) => {
          const text = tidied(String(v ?? ''));
          if (needed && text === '') return needed;
          if (kind === 'number') return numberWrong(text, spec) ?? true;
          // A password is taken as it was typed.
          if (kind === 'password') return true;
          return wordsWrong(text, { most: spec.most ?? MOST.name, lines: kind === 'lines' }) ?? true;
        },
      }}
      render={({ field, fieldState }) => (
        <TextField
          size="small"
          label={label}
          {...field}
          className={wide || kind === 'lines' ? 'record-wide' : ''}
          select={options !== undefined}
          multiline={kind === 'lines'}
          type={kind === 'password' ? 'password' : kind === 'day' ? 'date' : 'text'}
          error={fieldState.error !== undefined || refused !== undefined}
          helperText={fieldState.error?.message || refused || hint}
          slotProps={{
            ...(kind === 'day' ? { inputLabel: { shrink: true } } : {}),
            htmlInput: {
              ...(kind === 'number' ? { inputMode: 'decimal' } : {}),
              ...(kind === 'password' ? { autoComplete: 'new-password' } : {}),
            },
          }}
        >
          {options?.map(([value, text]) => (
            <MenuItem key={value} value={value}>
              {text}
            </MenuItem>
          ))}
        </TextField>
      )}
    />
  );
}

function numberWrong(
  text: string,
  { from = -Infinity, to = Infinity }: { from?: number; to?: number },
): string | undefined {
  if (text === '') return undefined;
  const n = parseNumber(text);
  if (!n.ok) return `${n.refusal.message} ${n.refusal.remedy ?? ''}`;
  if (n.value < from) return `At least ${from}.`;
  return n.value > to ? `At most ${to}.` : undefined;
}

/** A typed number; what was not typed is none. */
export const typedNumber = (text: string | undefined): number | null => {
  const n = parseNumber((text ?? '').trim());
  return n.ok ? n.value : null;
};

/** A typed line; what was left empty is none. */
export const typedLine = (text: string | undefined): string | null => (text ?? '').trim() || null;
