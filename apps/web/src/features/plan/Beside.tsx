import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Control } from '@firm-needle/contract';
import {
  lastSaid,
  linkFindings,
  plateFrom,
  rolesOf,
  type Family,
  type Links,
} from '@firm-needle/core/family';
import { Link } from 'react-router';
import { useLinkControlMutation } from '../../store/api.ts';
import { problemOf } from '../../ui/States.tsx';
import type { Planning } from '../../planning/usePlan.ts';

const NOBODY = '';

/** Who stands beside a control, by role. */
export const linksOf = (control: Pick<Control, 'links'>): Links =>
  Object.fromEntries(control.links.flatMap((l) => (l.to ? [[l.role, l.to]] : [])));

/** The controls that stand beside this one, chosen by name; where its plate says otherwise than their plans, one press takes it over. */
export function Beside({
  family,
  control,
  planning,
  editable,
}: {
  family: Family;
  control: Control;
  planning: Planning;
  editable: boolean;
}) {
  const [put, putting] = useLinkControlMutation();
  const roles = rolesOf(family, planning.plan).filter((r) => control.links.some((l) => l.role === r.id));
  if (roles.length === 0) return null;
  const links = linksOf(control);
  const differs = linkFindings(family, planning.plan, links);
  return (
    <section className="plan-beside" aria-label="Beside it">
      {roles.map((role) => {
        const link = control.links.find((l) => l.role === role.id);
        const to = link?.to ?? undefined;
        const could = link?.could ?? [];
        const given = to ? plateFrom(family, role, to) : {};
        const off = differs.filter((f) => f.about !== undefined && f.about in given);
        return (
          <div key={role.id}>
            <TextField
              select
              fullWidth
              size="small"
              label={role.title}
              value={to?.control ?? NOBODY}
              disabled={!editable || putting.isLoading}
              helperText={
                could.length === 0 && !to ? 'No control of this site can stand there yet.' : undefined
              }
              onChange={(e) =>
                void put({
                  control: control.id,
                  role: role.id,
                  to: e.target.value === NOBODY ? null : e.target.value,
                })
              }
            >
              <MenuItem value={NOBODY}>None known here</MenuItem>
              {could.map((c) => (
                <MenuItem key={c.id} value={c.id}>
                  {c.name}, {c.equipment}
                </MenuItem>
              ))}
              {to && !could.some((c) => c.id === to.control) && (
                <MenuItem value={to.control}>{to.name}</MenuItem>
              )}
            </TextField>
            {to && (
              <p className="soft">
                <Link to={`/controls/${to.control}`}>{to.name}</Link>: {lastSaid(to)}.
              </p>
            )}
            {off.map((f) => (
              <p key={f.about} className="caution">
                <strong>{f.message}</strong> {f.remedy}{' '}
                {editable && (
                  <Button
                    size="small"
                    variant="outlined"
                    onClick={() => {
                      const said = given[f.about ?? ''];
                      if (said) planning.typeOnPlate(f.about ?? '', `${said.text} ${said.unit}`);
                    }}
                  >
                    Take it over
                  </Button>
                )}
              </p>
            ))}
          </div>
        );
      })}
      {putting.isError && (
        <p className="caution" role="alert">
          {problemOf(putting.error)?.detail ?? 'It was not kept. Try again.'}{' '}
          {problemOf(putting.error)?.remedy}
        </p>
      )}
    </section>
  );
}
