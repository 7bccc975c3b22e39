// The firm’s own gauges and what checks of them showed.
import type { FoundError, Gauge, GaugeKind, Medium } from '@firm-needle/core/gauge';
import type { Outcome } from '@firm-needle/core/procedure';

export type FirmGauge = Gauge & { readonly owner: string | null; readonly retired?: boolean };

/** A gauge with what its zeros and its checks have shown. */
export interface GaugeHistory extends FirmGauge {
  readonly limit_Pa: number;
  readonly zeros: readonly {
    readonly at: string;
    readonly before_Pa: number;
    readonly after_Pa: number;
    readonly handling: string;
    readonly job: string;
  }[];
  readonly drift: {
    readonly perYear: number;
    readonly error: number;
    readonly n: number;
    readonly leaves?: string;
  } | null;
  /** The control that its checks belong to, once there is one. */
  readonly control: { readonly id: string; readonly due: string | null } | null;
  /** Checks of its span, newest first. */
  readonly spans: readonly GaugeSpan[];
}

export interface GaugeSpan {
  readonly job: string;
  readonly at: string;
  readonly outcome: Outcome;
  readonly errors: readonly FoundError[];
}

/** A gauge as it is entered; the server makes the gauge of it. */
export interface GaugeForm {
  readonly label: string;
  readonly kind: GaugeKind;
  readonly unit: string;
  readonly lower: number;
  readonly upper: number;
  readonly division: number;
  /** The part of a division that can be read. */
  readonly readable: number;
  /** A B40.100 grade, an EN 837-1 class, or percent of span with its sign: `2A`, `1.6`, `0.25 %`. */
  readonly accuracy: string;
  readonly medium: Medium;
  /** Water temperature of a column, °C; the conventional column where absent. */
  readonly column_C?: number;
  readonly serial?: string;
  readonly certificate?: string;
  readonly owner?: string;
  readonly due?: string;
  readonly retired?: boolean;
}
