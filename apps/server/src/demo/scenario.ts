import type { GaugeKind, Medium } from '@firm-needle/core/gauge';
import { readFileSync } from 'node:fs';

/** One past visit to a control: what was planned, and the hidden faults its rig had. */
export interface DemoVisit {
  readonly daysAgo: number;
  readonly given: Readonly<Record<string, string>>;
  readonly faults: readonly string[];
  readonly seed: number;
  /** Where that visit was of another kind than the control's usual one. */
  readonly variant?: string;
}

export interface DemoControl {
  readonly name: string;
  readonly family: string;
  readonly story?: string;
  readonly dueIn?: number;
  readonly law?: { readonly months: number; readonly by: string };
  readonly device?: string;
  /** The firm's gauge that this control is. */
  readonly gauge?: string;
  readonly variant?: string;
  /** What is chosen in its plans that is no number, and by which practice it is worked. */
  readonly choices?: Readonly<Record<string, string>>;
  readonly school?: string;
  readonly plate?: Readonly<Record<string, string>>;
  readonly history?: readonly DemoVisit[];
  readonly plan?: Readonly<Record<string, string>>;
  readonly rig?: { readonly faults: readonly string[]; readonly seed: number };
  /** Who stands beside it: role → name of a control of the same site. */
  readonly links?: Readonly<Record<string, string>>;
  readonly open?: { readonly daysAgo: number; readonly steps: number };
}

export interface DemoGauge {
  readonly label: string;
  readonly kind: GaugeKind;
  readonly unit: string;
  readonly lower: number;
  readonly upper: number;
  readonly division: number;
  readonly readable: number;
  readonly grade?: string;
  readonly class?: number;
  readonly stated?: number;
  readonly medium: Medium;
  readonly column_C?: number;
  readonly serial: string;
  readonly dueIn: number;
}

export interface Scenario {
  readonly organisation: string;
  readonly island: string;
  readonly password: string;
  readonly users: readonly {
    readonly login: string;
    readonly name: string;
    readonly role: 'technician' | 'supervisor' | 'reader';
    readonly permits: string[];
    readonly site?: string;
  }[];
  readonly gauges: readonly DemoGauge[];
  readonly sites: readonly {
    readonly name: string;
    readonly altitude_m: number;
    readonly notes?: string;
    readonly customer?: string;
    readonly address?: string;
    readonly contact?: string;
    readonly access?: string;
    readonly hazards?: string;
    readonly equipment: readonly {
      readonly name: string;
      readonly notes?: string;
      readonly maker?: string;
      readonly model?: string;
      readonly serial?: string;
      readonly made?: number;
      readonly controls: readonly DemoControl[];
    }[];
  }[];
  readonly visits: readonly {
    readonly site: string;
    readonly technician: string;
    readonly day: number;
    readonly purpose: string;
    readonly controls: readonly string[];
  }[];
}

/** The invented scenario, from the repository's demo folder. */
export const readScenario = (): Scenario =>
  JSON.parse(readFileSync(new URL('../../../../demo/ostrey.json', import.meta.url), 'utf8')) as Scenario;
