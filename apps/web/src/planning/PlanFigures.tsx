import { givablesOf, schoolOf, type Family } from '@firm-needle/core/family';
import { unitOf } from '@firm-needle/core/procedure';
import { fromCanonical, short, showWithUnit, symbolOf } from '@firm-needle/core/quantity';
import type { Planning } from './usePlan.ts';
import { Typed } from './Typed.tsx';

/** A plan in figures: what can be given, what follows from it, and what speaks against it. */
export function PlanFigures({ family, planning }: { family: Family; planning: Planning }) {
  const { plan, findings } = planning;
  const school = schoolOf(family, plan.school);
  return (
    <>
      <div className="plan-settings">
        {givablesOf(family, plan).map((s) => {
          const value = plan.values[s.id];
          const unit = unitOf(family, plan, s.id);
          const pinned = school.pins.includes(s.id);
          const given = plan.given.some((g) => g.setting === s.id);
          const beside =
            value === undefined ? undefined : family.beside?.(plan, s.id, value, planning.ambient);
          return (
            <Typed
              key={s.id}
              label={s.title}
              unit={symbolOf(unit)}
              held={pinned}
              shown={value === undefined ? '' : short(fromCanonical(value, unit))}
              hint={[pinned ? 'held by this practice' : given ? 'given' : 'follows', beside]
                .filter(Boolean)
                .join(' · ')}
              onType={(text) => planning.type(s.id, text)}
            />
          );
        })}
      </div>
      <dl className="plan-figures">
        {family.figures(plan, planning.ambient).map((f) => (
          <div key={f.id} title={f.because}>
            <dt>{f.title}</dt>
            <dd className="figure">{showWithUnit(f.value, { unit: f.unit, step: f.step })}</dd>
          </div>
        ))}
      </dl>
      {findings.length > 0 && (
        <ul className="plan-findings">
          {findings.map((f) => (
            <li key={f.code} className="caution">
              <strong>{f.message}</strong> {f.remedy}
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
