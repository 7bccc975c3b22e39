import { ambientOf } from '@firm-needle/core/family';
import { parseQuantity, show } from '@firm-needle/core/quantity';
import type { Refusal } from '@firm-needle/core/result';
import { useState } from 'react';
import type { SiteRef } from '@firm-needle/contract';

/** How the gauges hang and what the air weighs on the day: typed before a job, kept with it. */
export interface Circumstances {
  /** How far each gauge hangs below its point, m. */
  readonly heads_m: Readonly<Record<string, number>>;
  readonly barometer_Pa: number | undefined;
  /** What was typed, in a few words. */
  readonly summary: string;
  readonly barometerText: string;
  readonly byAltitude: string;
  heightText(slot: string): string;
  typeHeight(slot: string, text: string): Refusal | undefined;
  typeBarometer(text: string): Refusal | undefined;
}

const MOST_M = 200;

export function useCircumstances(site: SiteRef): Circumstances {
  const [heights, setHeights] = useState<Readonly<Record<string, { text: string; m: number }>>>({});
  const [barometer, setBarometer] = useState<{ text: string; pa: number }>();
  const standard = ambientOf(site);
  return {
    heads_m: Object.fromEntries(Object.entries(heights).map(([slot, h]) => [slot, h.m])),
    barometer_Pa: barometer?.pa,
    summary: [
      ...Object.values(heights).map((h) => `${h.text} below`),
      ...(barometer ? [`${barometer.text}`] : []),
    ].join(', '),
    barometerText: barometer?.text ?? '',
    byAltitude: standard.ok ? `${show(standard.value, { unit: 'hPa', step: 1 })} hPa` : 'unknown',
    heightText: (slot) => heights[slot]?.text ?? '',
    typeHeight: (slot, text) => {
      if (text.trim() === '') {
        setHeights(Object.fromEntries(Object.entries(heights).filter(([id]) => id !== slot)));
        return undefined;
      }
      const typed = parseQuantity(text, 'length', 'm');
      if (!typed.ok) return typed.refusal;
      const m = typed.value.value;
      if (Math.abs(m) > MOST_M)
        return {
          code: 'head',
          message: `A gauge does not hang ${text} from its point.`,
          bound: `${MOST_M} m up or down`,
          remedy: 'Type the height between the gauge and the point.',
        };
      setHeights({ ...heights, [slot]: { text: text.trim(), m } });
      return undefined;
    },
    typeBarometer: (text) => {
      if (text.trim() === '') {
        setBarometer(undefined);
        return undefined;
      }
      const typed = parseQuantity(text, 'pressure', 'hPa');
      if (!typed.ok) return typed.refusal;
      const ambient = ambientOf({ altitude_m: site.altitude_m, barometer_Pa: typed.value.value });
      if (!ambient.ok) return ambient.refusal;
      setBarometer({ text: text.trim(), pa: typed.value.value });
      return undefined;
    },
  };
}
