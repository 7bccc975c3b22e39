import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { chooseGauges, gaugeDoubt } from '@firm-needle/core/family';
import { rangeText, type Gauge } from '@firm-needle/core/gauge';
import { slotsOf } from '@firm-needle/core/procedure';
import { format } from 'date-fns';
import { useMemo, useState } from 'react';
import { useGaugesQuery } from '../../store/api.ts';
import type { OpenJob } from '../../sync/useJob.ts';
import { Ask, Why } from '../../ui/Ask.tsx';

interface Props {
  readonly job: OpenJob;
  /** The place whose gauge is most likely meant: that of the step at hand. */
  readonly slot: string;
  readonly onChange: (slot: string, gauge: Gauge, reason: string) => void;
  readonly onClose: () => void;
}

/** Another gauge in mid-job: its zero is read before the next reading, and everything is judged by the gauge that read it. */
export function GaugeDialog({ job, slot: first, onChange, onClose }: Props) {
  const { family, view } = job;
  const gauges = useGaugesQuery();
  const slots = slotsOf(family, view.plan).filter((s) => !s.underTest);
  const [slot, setSlot] = useState(slots.some((s) => s.id === first) ? first : (slots[0]?.id ?? ''));
  const [gauge, setGauge] = useState('');
  const [reason, setReason] = useState('');
  const today = format(new Date(), 'yyyy-MM-dd');
  const choices = useMemo(
    () => chooseGauges(family, view.plan, gauges.data?.items ?? [], today),
    [family, view.plan, gauges.data, today],
  );
  const now = view.gauge(slot);
  const ranked = choices.find((c) => c.slot.id === slot)?.ranked.filter((r) => r.gauge.id !== now?.id) ?? [];
  const chosen = ranked.find((r) => r.gauge.id === gauge);
  return (
    <Ask
      title="Change the gauge"
      onClose={onClose}
      acts={
        <Button
          variant="contained"
          disabled={!chosen || reason.trim() === ''}
          onClick={() => chosen && onChange(slot, chosen.gauge, reason.trim())}
        >
          Change it
        </Button>
      }
    >
      <p>Readings taken so far keep the gauge that took them. The new one is zeroed before it is read.</p>
      {slots.length > 1 && (
        <TextField
          select
          fullWidth
          margin="dense"
          label="Where"
          value={slot}
          onChange={(e) => {
            setSlot(e.target.value);
            setGauge('');
          }}
        >
          {slots.map((s) => (
            <MenuItem key={s.id} value={s.id}>
              {s.title}, now {view.gauge(s.id)?.label ?? 'none'}
            </MenuItem>
          ))}
        </TextField>
      )}
      <TextField
        select
        fullWidth
        margin="dense"
        label="The new gauge"
        value={chosen ? gauge : ''}
        onChange={(e) => setGauge(e.target.value)}
        helperText={chosen ? (gaugeDoubt(chosen.gauge, today) ?? chosen.because) : ' '}
      >
        {ranked.map((r) => (
          <MenuItem key={r.gauge.id} value={r.gauge.id}>
            {r.gauge.label}, {rangeText(r.gauge)}
          </MenuItem>
        ))}
      </TextField>
      <Why value={reason} onChange={setReason} />
    </Ask>
  );
}
