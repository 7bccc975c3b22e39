// A control beside another in a role: the limit that stands over an operating control, a first stage before its second.
import { fromCanonical, short, symbolOf } from '../quantity/index.js';
import type { AsTyped, Finding, Plan } from '../procedure/index.js';
import type { Family } from './contract.js';
import { typePlate } from './plan.js';

/** What another control can be to this one. */
export interface LinkRole {
  readonly id: string;
  readonly title: string;
  /** The kinds of control that can stand in it. */
  readonly kinds: readonly string[];
  /** What its own plan must be, where not every control of these kinds can. */
  fits?(plan: Pick<Plan, 'variant' | 'school' | 'choices'>): boolean;
  /** Parameters of this one's plate that are a setting of the other's plan: parameter → setting. */
  readonly gives: Readonly<Record<string, string>>;
  /** Where only some plans of this kind have it. */
  when?(plan: Pick<Plan, 'variant' | 'school' | 'choices'>): boolean;
}

/** The other control as it stands. */
export interface Linked {
  readonly control: string;
  readonly name: string;
  /** The settings of its plan in force, canonical. */
  readonly values: Readonly<Record<string, number>>;
  /** The last job on it that was signed; absent where there is none. */
  readonly signed?: { readonly at: string; readonly outcome: string; readonly proved: boolean };
}

/** The other controls of one, by role. */
export type Links = Readonly<Record<string, Linked>>;

/** The roles that a plan has. */
export const rolesOf = (
  family: Pick<Family, 'links'>,
  plan: Pick<Plan, 'variant' | 'school' | 'choices'>,
): readonly LinkRole[] => (family.links ?? []).filter((r) => r.when?.(plan) ?? true);

/** What the other control's plan says of this one's plate, as if it had been typed; by parameter. What no plate can say is left out. */
export function plateFrom(family: Family, role: LinkRole, linked: Linked): Readonly<Record<string, AsTyped>> {
  const out: Record<string, AsTyped> = {};
  for (const [parameter, setting] of Object.entries(role.gives)) {
    const def = family.plate.find((p) => p.id === parameter);
    const value = linked.values[setting];
    if (!def || value === undefined) continue;
    const typed = typePlate(family, parameter, short(fromCanonical(value, def.unit)));
    if (typed.ok) out[parameter] = typed.value;
  }
  return out;
}

/** Where a plate says otherwise than the plan of the control that stands in a role; nothing is said of a role that is empty. */
export function linkFindings(family: Family, plan: Plan, links: Links): readonly Finding[] {
  return rolesOf(family, plan).flatMap((role) => {
    const linked = links[role.id];
    if (!linked) return [];
    return Object.entries(plateFrom(family, role, linked)).flatMap(([parameter, said]): Finding[] => {
      const def = family.plate.find((p) => p.id === parameter);
      const have = plan.plate[parameter];
      if (!def || (have && short(fromCanonical(have.value, def.unit)) === said.text)) return [];
      const unit = symbolOf(def.unit);
      return [
        {
          severity: 'warn',
          code: 'link-differs',
          about: parameter,
          message: `${role.title}, ${linked.name}, is planned at ${said.text} ${unit}; the plate here says ${
            have ? `${short(fromCanonical(have.value, def.unit))} ${unit}` : 'nothing'
          }.`,
          remedy: 'Take over what it is planned at, or look at both.',
        },
      ];
    });
  });
}
