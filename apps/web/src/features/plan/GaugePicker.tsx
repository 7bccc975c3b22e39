import { gaugeDoubt, type GaugeChoice } from '@firm-needle/core/family';
import { rangeText, type Fitness, type Suitability } from '@firm-needle/core/gauge';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { format } from 'date-fns';
import { Fragment } from 'react';
import type { Circumstances } from './useCircumstances.ts';
import { Typed } from '../../planning/Typed.tsx';

const WORDS: Readonly<Record<Fitness, string>> = {
  good: 'good',
  usable: 'usable',
  'cannot-tell': 'cannot tell',
  unsafe: 'would be over-ranged',
};

interface PickerProps {
  readonly choices: readonly GaugeChoice[];
  /** What goes where: as chosen, or the best that is free. */
  readonly chosen: Readonly<Record<string, Suitability>>;
  readonly onChoose: (slot: string, gauge: string) => void;
  /** Why a gauge in doubt is used, by place. */
  readonly reasons: Readonly<Record<string, string>>;
  readonly onReason: (slot: string, reason: string) => void;
  readonly around: Circumstances;
}

/** Which gauge goes where, with what it can tell and why, what to borrow, how it hangs, and the day's barometer. */
export function GaugePicker({ choices, chosen, onChoose, reasons, onReason, around }: PickerProps) {
  const today = format(new Date(), 'yyyy-MM-dd');
  const weighed = choices.filter((c) => c.slot.medium === 'water');
  if (choices.length === 0) return null;
  return (
    <div className="gauge-picker">
      {choices.map(({ slot, ranked, borrow }) => {
        const now = chosen[slot.id];
        const doubt = slot.underTest
          ? undefined
          : (gaugeDoubt(now?.gauge, today) ?? (now?.fitness === 'unsafe' ? now.because : undefined));
        return (
          <Fragment key={slot.id}>
            <TextField
              select
              size="small"
              label={slot.title}
              value={now?.gauge.id ?? ''}
              disabled={ranked.length === 0}
              onChange={(e) => onChoose(slot.id, e.target.value)}
              helperText={now ? now.because : 'No gauge of yours fits here.'}
            >
              {ranked.map((s) => (
                <MenuItem key={s.gauge.id} value={s.gauge.id}>
                  {s.gauge.label}, {rangeText(s.gauge)}
                  {s.because !== '' && !slot.underTest && `: ${WORDS[s.fitness]}`}
                  {gaugeDoubt(s.gauge, today) !== undefined && ', in doubt'}
                </MenuItem>
              ))}
            </TextField>
            {borrow && (
              <p className="gauge-borrow">
                <strong>None of yours can tell this. Borrow</strong> {borrow.text}.
              </p>
            )}
            {doubt !== undefined && (
              <TextField
                size="small"
                label={`Why is ${now?.gauge.label} used?`}
                value={reasons[slot.id] ?? ''}
                onChange={(e) => onReason(slot.id, e.target.value)}
                helperText={`${doubt} The reason stands on the sheet; without one the job cannot start with it.`}
              />
            )}
          </Fragment>
        );
      })}
      <details className="gauge-around">
        <summary>
          {weighed.length > 0 ? 'Height of the gauge, barometer' : 'Barometer'}
          <span className="soft"> {around.summary}</span>
        </summary>
        <div className="gauge-around-fields">
          {weighed.map(({ slot }) => (
            <Typed
              key={slot.id}
              label={`Below its point: ${slot.title.toLowerCase()}`}
              unit="m"
              shown={around.heightText(slot.id)}
              hint="It then reads the water between too high; negative where it hangs above"
              onType={(text) => around.typeHeight(slot.id, text)}
            />
          ))}
          <Typed
            label="Barometer, if read"
            unit="hPa"
            shown={around.barometerText}
            hint={`Station pressure; by the altitude ${around.byAltitude}`}
            onType={around.typeBarometer}
          />
        </div>
      </details>
    </div>
  );
}
