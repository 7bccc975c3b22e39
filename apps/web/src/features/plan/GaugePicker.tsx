import { format } from 'date-fns';
import { Fragment } from 'react';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import {
  isOverdue,
  rank,
  rangeText,
  type Family,
  type Fitness,
  type Gauge,
  type Need,
  type Plan,
  type Suitability,
} from '@firm-needle/core';

const WORDS: Readonly<Record<Fitness, string>> = {
  good: 'good',
  usable: 'usable',
  'cannot-tell': 'cannot tell',
  unsafe: 'would be over-ranged',
};

/** The narrowest need of a gauge place: the setting read there whose limits are closest. */
function needOf(family: Family, plan: Plan, slot: string, medium: 'water' | 'air' | 'any'): Need | undefined {
  const needs = family.settings
    .filter((s) => s.slot === slot && s.had === 'reading')
    .flatMap((s) => {
      const { lower, upper } = plan.limits[s.id] ?? {};
      const target = plan.values[s.id];
      return lower === undefined || upper === undefined || target === undefined
        ? []
        : [
            {
              target,
              lower,
              upper,
              worst: family.worst(plan, slot),
              repeatability: s.repeatability,
              cycles: s.cycles,
              ...(medium === 'any' ? {} : { medium }),
            },
          ];
    });
  return needs.sort((a, b) => b.target - a.target)[0];
}

/** Every place's gauges, ranked by what they can tell here. */
export function rankedGauges(
  family: Family,
  plan: Plan,
  gauges: readonly Gauge[],
): Readonly<Record<string, readonly Suitability[]>> {
  const today = format(new Date(), 'yyyy-MM-dd');
  return Object.fromEntries(
    family.slots.map((s) => {
      const need = needOf(family, plan, s.id, s.medium);
      const ranked = need ? rank(gauges, need) : [];
      // A gauge past its date is offered last, whatever it can tell.
      return [
        s.id,
        [
          ...ranked.filter((r) => !isOverdue(r.gauge, today)),
          ...ranked.filter((r) => isOverdue(r.gauge, today)),
        ],
      ];
    }),
  );
}

interface PickerProps {
  readonly family: Family;
  readonly ranked: Readonly<Record<string, readonly Suitability[]>>;
  readonly chosen: Readonly<Record<string, string>>;
  readonly onChoose: (slot: string, gauge: string) => void;
  /** Why an overdue gauge is used, by place. */
  readonly reasons: Readonly<Record<string, string>>;
  readonly onReason: (slot: string, reason: string) => void;
}

/** Which gauge goes where, with what it can tell and why. */
export function GaugePicker({ family, ranked, chosen, onChoose, reasons, onReason }: PickerProps) {
  const today = format(new Date(), 'yyyy-MM-dd');
  return (
    <div className="gauge-picker">
      {family.slots.map((slot) => {
        const list = ranked[slot.id] ?? [];
        const now = list.find((s) => s.gauge.id === chosen[slot.id]) ?? list[0];
        const late = isOverdue(now?.gauge, today);
        return (
          <Fragment key={slot.id}>
            <TextField
              select
              size="small"
              label={slot.title}
              value={now?.gauge.id ?? ''}
              onChange={(e) => onChoose(slot.id, e.target.value)}
              helperText={now?.because ?? 'No gauge of yours fits here.'}
            >
              {list.map((s) => (
                <MenuItem key={s.gauge.id} value={s.gauge.id}>
                  {s.gauge.label}, {rangeText(s.gauge)}: {WORDS[s.fitness]}
                  {isOverdue(s.gauge, today) && ', overdue'}
                </MenuItem>
              ))}
            </TextField>
            {late && (
              <TextField
                size="small"
                label={`${now?.gauge.label} was due on ${now?.gauge.due}: why is it used?`}
                value={reasons[slot.id] ?? ''}
                onChange={(e) => onReason(slot.id, e.target.value)}
                helperText="Stands on the sheet. Without a reason the job cannot start with it."
              />
            )}
          </Fragment>
        );
      })}
    </div>
  );
}
