import type { Family } from '@firm-needle/core/family';
import { byQuantity, type AdjusterDef } from '@firm-needle/core/procedure';
import { intervalFromCanonical, showInterval, symbolOf } from '@firm-needle/core/quantity';
import { format, parseISO } from 'date-fns';
import {
  CartesianGrid,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  XAxis,
  YAxis,
} from 'recharts';
import type { Control } from '@firm-needle/contract';

/** What earlier visits taught about this device: each move of a screw, and what one turn of it does here. */
export default function LearnedTurns({ family, control }: { family: Family; control: Control }) {
  const known = family.adjusters.filter((a) => !byQuantity(a) && control.device?.learned[a.id]);
  return known.map((a) => <OneScrew key={a.id} family={family} control={control} screw={a} />);
}

interface Move {
  readonly n: number;
  readonly day: string;
  readonly perTurn: number;
}

/** What every move of a screw did to its leading setting, per unit turned, in the order of the visits; Pa. */
function movesOf(control: Control, screw: AdjusterDef): Move[] {
  const leading = screw.prior.moves[0]?.setting;
  const jobs = control.jobs.filter((j) => j.signedAt).sort((a, b) => a.openedAt.localeCompare(b.openedAt));
  const moves = jobs.flatMap((j) =>
    j.turns.flatMap((t) => {
      const effect = t.effects.find((e) => e.setting === leading);
      return t.adjuster === screw.id && t.amount && effect
        ? [{ day: j.openedAt, perTurn: (effect.after - effect.before) / t.amount }]
        : [];
    }),
  );
  return moves.map((m, i) => ({ ...m, n: i + 1 }));
}

/** Part of the figure's height that two names need to stand apart. */
const NAMES_APART = 0.1;

function OneScrew({ family, control, screw }: { family: Family; control: Control; screw: AdjusterDef }) {
  const learned = control.device?.learned[screw.id];
  if (!learned) return null;
  const unit = family.settings.find((s) => s.id === screw.prior.moves[0]?.setting)?.unit ?? 'psi';
  const of = (pa: number): number => intervalFromCanonical(pa, unit);
  const moves = movesOf(control, screw);
  const points = moves.map((m) => ({ ...m, change: of(m.perTurn) }));
  const mean = of(learned.perTurn);
  const reach = 2 * learned.spread * Math.abs(mean);
  const expected = of(screw.prior.perTurn);
  const within = points.filter((p) => Math.abs(p.change - mean) <= reach).length;
  const all = [mean + reach, mean - reach, expected, 0, ...points.map((p) => p.change)];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const soft = { fill: 'var(--ink-soft)', fontSize: 13 };
  // Two lines that nearly meet: their names stand over and under, not on each other.
  const meet = Math.abs(mean - expected) < NAMES_APART * (high - low);
  const beside = (y: number, other: number): number => (meet ? (y >= other ? -8 : 8) : 0);
  return (
    <section className="plan-learned">
      <h2>
        One {screw.unit} of the {screw.title.toLowerCase()}
      </h2>
      <p>
        moves this device <strong>{showInterval(learned.perTurn, { unit, step: 0.1 })}</strong> ±{' '}
        {Math.round(learned.spread * 100)} %, where {showInterval(screw.prior.perTurn, { unit, step: 0.1 })}{' '}
        is usual.
        {points.length > 0 &&
          ` ${within === points.length ? (points.length === 1 ? 'The one turn of an earlier visit agrees' : `All ${points.length} turns of earlier visits agree`) : `${within} of ${points.length} turns of earlier visits agree`}; the next one is reckoned from it.`}
      </p>
      {points.length > 0 && (
        <figure aria-label={`Change per ${screw.unit}, ${points.length} moves`}>
          <ResponsiveContainer width="100%" height={190}>
            <ScatterChart accessibilityLayer={false} margin={{ top: 8, right: 92, bottom: 4, left: 0 }}>
              <CartesianGrid stroke="var(--line-faint)" vertical={false} />
              <ReferenceArea y1={mean - reach} y2={mean + reach} fill="var(--in)" fillOpacity={0.14} />
              <ReferenceLine
                y={mean}
                stroke="var(--ink)"
                label={{ value: 'learned', position: 'right', dy: beside(mean, expected), ...soft }}
              />
              <ReferenceLine
                y={expected}
                stroke="var(--ink-soft)"
                strokeDasharray="5 4"
                label={{
                  value: 'usual',
                  position: 'right',
                  dy: mean === expected ? 8 : beside(expected, mean),
                  ...soft,
                }}
              />
              <XAxis
                dataKey="n"
                type="number"
                domain={[0.5, points.length + 0.5]}
                ticks={points.map((p) => p.n)}
                tickFormatter={(n: number) => format(parseISO(points[n - 1]?.day ?? ''), 'd MMM')}
                tick={soft}
                stroke="var(--line)"
              />
              <YAxis
                dataKey="change"
                type="number"
                domain={[Math.floor(low), Math.ceil(high)]}
                width={58}
                tick={soft}
                stroke="var(--line)"
                unit={` ${symbolOf(unit)}`}
              />
              <Scatter
                data={points}
                fill="var(--card)"
                stroke="var(--ink)"
                strokeWidth={2}
                isAnimationActive={false}
              />
            </ScatterChart>
          </ResponsiveContainer>
        </figure>
      )}
    </section>
  );
}
