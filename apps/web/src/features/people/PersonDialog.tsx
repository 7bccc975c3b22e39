import type { Permit, Person, PersonForm, Problem, Role, Site } from '@firm-needle/contract';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { v7 as uuid } from 'uuid';
import { useSavePersonMutation } from '../../store/api.ts';
import type { Apart } from '../../ui/Meanwhile.tsx';
import { RecordDialog, typedLine, type FieldSpec, type Fields } from '../../ui/RecordDialog.tsx';
import { problemOf } from '../../ui/States.tsx';
import type { PermitKind } from './usePermits.ts';

export const ROLES: Readonly<Record<Role, string>> = {
  technician: 'technician',
  supervisor: 'supervisor',
  reader: 'customer’s account',
};

/** A person: who they are, what they may, how they sign in; and out again. */
export function PersonDialog({
  person,
  permits,
  sites,
  onClose,
}: {
  person: Person | undefined;
  permits: readonly PermitKind[];
  sites: readonly Site[];
  onClose: () => void;
}) {
  const [save] = useSavePersonMutation();
  const [id] = useState(() => person?.id ?? uuid());
  const [held, setHeld] = useState<readonly Permit[]>(person?.permits ?? []);
  const [off, setOff] = useState(person?.disabled ?? false);
  const fields: readonly FieldSpec<Fields>[] = [
    { name: 'name', label: 'Name', needed: 'Type the name that stands under what they sign.' },
    { name: 'role', label: 'Is a', kind: Object.entries(ROLES) },
    { name: 'login', label: 'Signs in as', needed: 'Type a name in small letters.' },
    {
      name: 'password',
      label: person ? 'New password' : 'First password',
      kind: 'password',
      hint: person ? 'empty: as it is; a new one ends their sessions' : 'ten characters or more; tell them',
      ...(person ? {} : { needed: 'Type one to begin with.' }),
    },
    {
      name: 'site',
      label: 'A customer’s account sees',
      kind: [['', 'every site'], ...sites.map((s) => [s.id, s.name] as const)],
      wide: true,
    },
  ];
  const keep = async (f: Fields, version: number): Promise<Problem | undefined> => {
    const password = f['password'] ?? '';
    const body: PersonForm = {
      version,
      name: (f['name'] ?? '').trim(),
      role: f['role'] as Role,
      login: (f['login'] ?? '').trim().toLowerCase(),
      permits: held.map((p) => (p.until ? p : { id: p.id })),
      siteId: typedLine(f['site']),
      disabled: off,
      ...(password ? { password } : {}),
    };
    return problemOf((await save({ id, body })).error);
  };
  /** Permits and the account itself stand in no field. */
  const apart = (now: Person): readonly Apart[] => {
    const said = (of: readonly Permit[]): string =>
      of
        .map(
          (p) => `${permits.find((k) => k.id === p.id)?.title ?? p.id}${p.until ? ` until ${p.until}` : ''}`,
        )
        .sort()
        .join(', ') || 'none';
    const account = (disabled: boolean): string => (disabled ? 'disabled' : 'in use');
    return [
      { label: 'Permits', mine: said(held), theirs: said(now.permits) },
      { label: 'Account', mine: account(off), theirs: account(now.disabled) },
    ].filter((a) => a.mine !== a.theirs);
  };
  const values = (p: Person | undefined): Fields => ({
    name: p?.name ?? '',
    role: p?.role ?? 'technician',
    login: p?.login ?? '',
    password: '',
    site: p?.siteId ?? '',
  });
  return (
    <RecordDialog
      title={person ? person.name : 'A new person'}
      fields={fields}
      values={values(person)}
      version={person?.version ?? 0}
      onKeep={keep}
      shown={(current) => {
        const now = current as Person | undefined;
        return now && { values: values(now), version: now.version };
      }}
      beside={(current) => apart(current as Person)}
      onTheirs={(current) => {
        const now = current as Person;
        setHeld(now.permits);
        setOff(now.disabled);
      }}
      keep="Keep the person"
      onClose={onClose}
      also={<Permits all={permits} held={held} onChange={setHeld} />}
      acts={
        person && (
          <Button aria-pressed={off} onClick={() => setOff(!off)}>
            {off ? 'Will be disabled' : 'Disable the account'}
          </Button>
        )
      }
    />
  );
}

function Permits({
  all,
  held,
  onChange,
}: {
  all: readonly PermitKind[];
  held: readonly Permit[];
  onChange: (held: readonly Permit[]) => void;
}) {
  return (
    <fieldset className="record-wide permit-choice">
      <legend className="eyebrow">Permits held</legend>
      {all.map((kind) => {
        const own = held.find((p) => p.id === kind.id);
        const others = held.filter((p) => p.id !== kind.id);
        return (
          <div key={kind.id}>
            <FormControlLabel
              label={kind.title}
              control={
                <Checkbox
                  checked={own !== undefined}
                  onChange={(e) => onChange(e.target.checked ? [...others, { id: kind.id }] : others)}
                />
              }
            />
            {own && (
              <TextField
                size="small"
                type="date"
                label="until"
                value={own.until ?? ''}
                onChange={(e) =>
                  onChange([...others, { id: kind.id, ...(e.target.value ? { until: e.target.value } : {}) }])
                }
                slotProps={{
                  inputLabel: { shrink: true },
                  htmlInput: { 'aria-label': `${kind.title} until` },
                }}
              />
            )}
          </div>
        );
      })}
    </fieldset>
  );
}
