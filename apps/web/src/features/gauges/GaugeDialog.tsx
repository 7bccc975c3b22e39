import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { AccuracyClass, GaugeKind, Medium } from '@firm-needle/core/gauge';
import { parseNumber, unitsOf } from '@firm-needle/core/quantity';
import { useState } from 'react';
import { Controller, useForm, type Control, type FieldErrors } from 'react-hook-form';
import { v7 as uuid } from 'uuid';
import { useSaveGaugeMutation } from '../../store/api.ts';
import type { FirmGauge } from '@firm-needle/contract';
import { problemOf } from '../../ui/States.tsx';
import { KIND } from './words.ts';

interface Fields {
  label: string;
  kind: GaugeKind;
  unit: string;
  lower: string;
  upper: string;
  division: string;
  readable: string;
  accuracy: string;
  medium: Medium;
  serial: string;
  certificate: string;
  owner: string;
  due: string;
  column: string;
}

const accuracyText = (c: AccuracyClass): string =>
  c.standard === 'stated' ? `${c.percentOfSpan} %` : c.standard === 'B40.100' ? c.grade : String(c.class);

const EMPTY: Fields = {
  label: '',
  kind: 'bourdon',
  unit: 'psi',
  lower: '0',
  upper: '100',
  division: '1',
  readable: '0.5',
  accuracy: '1A',
  medium: 'water',
  serial: '',
  certificate: '',
  owner: '',
  due: '',
  column: '',
};

const fieldsOf = (g: FirmGauge): Fields => ({
  label: g.label,
  kind: g.kind,
  unit: g.unit,
  lower: String(g.lower),
  upper: String(g.upper),
  division: String(g.division),
  readable: String(g.readable),
  accuracy: accuracyText(g.accuracy),
  medium: g.medium ?? 'any',
  serial: g.serial ?? '',
  certificate: g.certificate ?? '',
  owner: g.owner ?? '',
  due: g.due ?? '',
  column: g.column_C === undefined ? '' : String(g.column_C),
});

const READABLE = [
  ['1', 'a whole division'],
  ['0.5', 'half a division'],
  ['0.25', 'a quarter'],
  ['0.2', 'a fifth'],
] as const;

/** The usual parts of a division, and the one that a gauge was entered with. */
const readableTo = (gauge: FirmGauge | undefined): readonly (readonly [string, string])[] => {
  const own = String(gauge?.readable ?? 1);
  return READABLE.some(([part]) => part === own) ? READABLE : [...READABLE, [own, `${own} of a division`]];
};

const unitsFor = (kind: string) =>
  unitsOf(kind === 'thermometer' ? 'temperature' : 'pressure').filter((u) => !u.kind);

/** A gauge as its dial and certificate describe it: new, or corrected. */
export function GaugeDialog({ gauge, onClose }: { gauge: FirmGauge | undefined; onClose: () => void }) {
  const [save, state] = useSaveGaugeMutation();
  const { control, handleSubmit, formState, watch, setValue } = useForm<Fields>({
    defaultValues: gauge ? fieldsOf(gauge) : EMPTY,
  });
  const [retired, setRetired] = useState(gauge?.retired ?? false);
  const problem = problemOf(state.error);
  const submit = async (f: Fields): Promise<void> => {
    const body = {
      label: f.label.trim(),
      kind: f.kind,
      unit: f.unit,
      lower: number(f.lower),
      upper: number(f.upper),
      division: number(f.division),
      readable: Number(f.readable),
      accuracy: f.accuracy,
      medium: f.medium,
      ...(f.serial.trim() ? { serial: f.serial.trim() } : {}),
      ...(f.certificate.trim() ? { certificate: f.certificate.trim() } : {}),
      ...(f.owner.trim() ? { owner: f.owner.trim() } : {}),
      ...(f.due ? { due: f.due } : {}),
      ...(retired || gauge?.retired ? { retired } : {}),
      ...(f.kind === 'u-tube' && f.column.trim() ? { column_C: number(f.column) } : {}),
    };
    const done = await save({ id: gauge?.id ?? uuid(), body });
    if (done.data) onClose();
  };
  const wrong = (field: string): string | undefined =>
    problem?.errors?.find((e) => e.field === (field === 'column' ? 'column_C' : field))?.message;
  const text = (name: keyof Fields, label: string, hint?: string, numeric = false) => (
    <Field
      control={control}
      errors={formState.errors}
      name={name}
      label={label}
      hint={hint}
      numeric={numeric}
      refused={wrong(name)}
    />
  );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>{gauge ? `Gauge ${gauge.label}` : 'A new gauge'}</DialogTitle>
      <form onSubmit={(e) => void handleSubmit(submit)(e)} noValidate>
        <DialogContent className="gauge-form">
          {text('label', 'Label on its back')}
          <Choice
            control={control}
            name="kind"
            label="Kind"
            options={Object.entries(KIND)}
            onPick={(kind) => {
              // A thermometer has no psi, and nothing else has a °C.
              if (!unitsFor(kind).some((u) => u.id === watch('unit')))
                setValue('unit', kind === 'thermometer' ? 'degC' : EMPTY.unit);
            }}
          />
          <Choice
            control={control}
            name="unit"
            label="Unit"
            options={unitsFor(watch('kind')).map((u) => [u.id, u.symbol ?? u.id])}
          />
          <Choice
            control={control}
            name="medium"
            label="Good for"
            options={[
              ['water', 'water'],
              ['air', 'air'],
              ['refrigerant', 'refrigerant'],
              ['any', 'anything'],
            ]}
          />
          {text('lower', 'Scale from', undefined, true)}
          {text('upper', 'Scale to', undefined, true)}
          {text('division', 'Smallest division', 'or last digit', true)}
          <Choice control={control} name="readable" label="Readable to" options={readableTo(gauge)} />
          {text('accuracy', 'Accuracy', 'a grade (2A), a class (1.6), or 0.25 %')}
          {watch('kind') === 'u-tube' &&
            text('column', 'Water in it, °C', 'empty: the conventional column', true)}
          {text('serial', 'Serial')}
          {text('owner', 'Owner', 'empty: the firm')}
          {text('certificate', 'Certificate number')}
          {text('due', 'Certificate until', 'as 2030-01-31')}
          {problem && (
            <p className="caution gauge-problem" role="alert">
              <strong>{problem.detail}</strong> {problem.remedy}
            </p>
          )}
        </DialogContent>
        <DialogActions>
          {gauge && (
            <Button aria-pressed={retired} onClick={() => setRetired(!retired)}>
              {retired ? 'Will be retired' : 'Retire it'}
            </Button>
          )}
          <span className="grow" />
          <Button onClick={onClose}>Back</Button>
          <Button type="submit" variant="contained" disabled={state.isLoading}>
            Keep the gauge
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}

const number = (text: string): number => {
  const n = parseNumber(text);
  return n.ok ? n.value : NaN;
};

interface FieldProps {
  readonly control: Control<Fields>;
  readonly errors: FieldErrors<Fields>;
  readonly name: keyof Fields;
  readonly label: string;
  readonly hint: string | undefined;
  readonly numeric: boolean;
  readonly refused: string | undefined;
}

const OPTIONAL: ReadonlySet<keyof Fields> = new Set(['serial', 'certificate', 'owner', 'due', 'column']);

function Field({ control, errors, name, label, hint, numeric, refused }: FieldProps) {
  const error = errors[name]?.message ?? refused;
  return (
    <Controller
      control={control}
      name={name}
      rules={{
        validate: (v) => {
          if (v.trim() === '') return OPTIONAL.has(name) || 'This is needed.';
          const n = numeric ? parseNumber(v) : undefined;
          return n && !n.ok ? `${n.refusal.message} ${n.refusal.remedy ?? ''}` : true;
        },
      }}
      render={({ field }) => (
        <TextField
          size="small"
          label={label}
          {...field}
          error={error !== undefined}
          helperText={error ?? hint}
        />
      )}
    />
  );
}

function Choice({
  control,
  name,
  label,
  options,
  onPick,
}: {
  control: Control<Fields>;
  name: keyof Fields;
  label: string;
  options: readonly (readonly [string, string])[];
  onPick?: (value: string) => void;
}) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field }) => (
        <TextField
          select
          size="small"
          label={label}
          {...field}
          onChange={(e) => {
            field.onChange(e);
            onPick?.(e.target.value);
          }}
        >
          {options.map(([value, title]) => (
            <MenuItem key={value} value={value}>
              {title}
            </MenuItem>
          ))}
        </TextField>
      )}
    />
  );
}
