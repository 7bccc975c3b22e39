import { familyExists } from '@firm-needle/families';
import type {
  DueItem,
  Person,
  PlannedVisit,
  Problem,
  Site,
  SiteControl,
  VisitForm,
} from '@firm-needle/contract';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMemo, useState } from 'react';
import { v7 as uuid } from 'uuid';
import { useCarry, type Carried, withInstead } from '../../planning/useCarry.ts';
import { useSaveVisitMutation } from '../../store/api.ts';
import { problemOf } from '../../ui/States.tsx';
import { Meanwhile } from '../../ui/Meanwhile.tsx';
import { plusDays, said, today } from './days.ts';
import '../../ui/record.css';

/** A visit that is being planned: one that stands, or a new one with what it began from. */
export interface VisitDraft {
  readonly visit?: PlannedVisit;
  readonly site?: string;
  readonly controls?: readonly string[];
  readonly technicianId?: string;
  readonly day?: string;
}

/** A visit as it stands now, where somebody else moved it meanwhile. */
interface VisitNow {
  readonly day: string;
  readonly technicianId: string;
  readonly stop: number;
  readonly version: number;
  readonly cancelled: string | null;
}

/** What else of the same site is due so soon goes along. */
const ALONG_DAYS = 45;

interface Props {
  readonly draft: VisitDraft;
  readonly people: readonly Person[];
  readonly me: string;
  readonly due: readonly DueItem[];
  readonly sites: readonly Site[];
  readonly onClose: () => void;
  readonly onKept: (day: string) => void;
}

/** Who goes, when, for what; and what follows from it: what falls due with it, what to carry, which permit is missing. */
export function VisitDialog({ draft, people, me, due, sites, onClose, onKept }: Props) {
  const { visit } = draft;
  const siteId = visit?.site.id ?? draft.site ?? '';
  const site = sites.find((s) => s.id === siteId);
  const there = useMemo(
    () => (site?.equipment ?? []).flatMap((e) => e.controls.map((c) => ({ ...c, equipment: e.name }))),
    [site],
  );
  const [id] = useState(() => visit?.id ?? uuid());
  const [day, setDay] = useState(visit?.day ?? draft.day ?? plusDays(today(), 1));
  const [who, setWho] = useState(
    visit?.technicianId ??
      draft.technicianId ??
      (people.some((p) => p.id === me) ? me : (people[0]?.id ?? '')),
  );
  const [stop, setStop] = useState(visit?.stop ?? 1);
  const [purpose, setPurpose] = useState(visit?.purpose ?? '');
  const [chosen, setChosen] = useState<readonly string[]>(
    () => visit?.controls.map((c) => c.id) ?? withAlong(draft.controls ?? [], siteId, day, due),
  );
  const [cancelling, setCancelling] = useState<string>();
  const [save, saving] = useSaveVisitMutation();
  const carried: readonly Carried[] = chosen.flatMap((c) => {
    const own = there.find((t) => t.id === c) ?? visit?.controls.find((t) => t.id === c);
    return own
      ? [{ id: own.id, name: own.name, family: own.family, available: familyExists(own.family) }]
      : [];
  });
  const carry = useCarry(carried);
  const person = people.find((p) => p.id === who);
  const lacks = carry.permits.filter(
    (p) => !person?.permits.some((h) => h.id === p.id && (h.until === undefined || h.until >= day)),
  );
  const problem = problemOf(saving.error);
  const now = problem?.code === 'moved-on' ? (problem.current as VisitNow | undefined) : undefined;
  const nameOf = (id: string): string => people.find((p) => p.id === id)?.name ?? 'somebody else';
  const keep = async (cancelled?: string, from = visit?.version ?? 0): Promise<void> => {
    const body: VisitForm = {
      version: from + 1,
      siteId,
      technicianId: who,
      day,
      stop,
      purpose: purpose.trim() || null,
      controls: chosen,
      ...(cancelled === undefined ? {} : { cancelled }),
    };
    const done = await save({ id, body });
    if (!done.data) return;
    onKept(day);
    onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" className="from-top">
      <DialogTitle>{visit?.site.name ?? site?.name ?? 'A visit'}</DialogTitle>
      <DialogContent className="record">
        <TextField
          select
          size="small"
          label="Who goes"
          value={who}
          onChange={(e) => setWho(e.target.value)}
          {...at(problem, 'technicianId')}
        >
          {people.map((p) => (
            <MenuItem key={p.id} value={p.id}>
              {p.name}
            </MenuItem>
          ))}
          {visit && !people.some((p) => p.id === visit.technicianId) && (
            <MenuItem value={visit.technicianId}>{visit.technician}</MenuItem>
          )}
        </TextField>
        <TextField
          size="small"
          type="date"
          label="Day"
          value={day}
          onChange={(e) => setDay(e.target.value)}
          slotProps={{ inputLabel: { shrink: true } }}
          {...at(problem, 'day')}
        />
        <TextField
          size="small"
          type="number"
          label="Stop of the day"
          value={stop}
          onChange={(e) => setStop(Number(e.target.value))}
          slotProps={{ htmlInput: { min: 1, max: 99 } }}
          {...at(problem, 'stop')}
        />
        <TextField
          size="small"
          label="What for"
          value={purpose}
          onChange={(e) => setPurpose(e.target.value)}
        />
        <Walk there={there} chosen={chosen} due={due} onChange={setChosen} />
        <div className="record-wide visit-follows" role="status">
          {lacks.length > 0 && (
            <p className="caution">
              <strong>{person?.name ?? 'Nobody'} lacks a permit on that day:</strong>{' '}
              {lacks.map((l) => `${l.title} (${l.control})`).join(', ')}. What asks for it stays undone.
            </p>
          )}
          {carry.tools.length > 0 && (
            <p>
              <strong>Carry</strong> {carry.tools.join(' · ')}
            </p>
          )}
          {carry.gauges.length > 0 && (
            <p>
              <strong>Gauges</strong> {carry.gauges.map((g) => withInstead(g, carry)).join(' · ')}
            </p>
          )}
          {carry.borrow.length > 0 && (
            <p>
              <strong>Borrow</strong> {carry.borrow.join(' · ')}
            </p>
          )}
        </div>
        {cancelling !== undefined && (
          <TextField
            className="record-wide"
            size="small"
            autoFocus
            label="Why it is cancelled"
            value={cancelling}
            onChange={(e) => setCancelling(e.target.value)}
          />
        )}
        {now ? (
          <Meanwhile
            apart={[
              { label: 'Who goes', mine: nameOf(who), theirs: nameOf(now.technicianId) },
              { label: 'Day', mine: day, theirs: now.day },
              { label: 'Stop', mine: String(stop), theirs: String(now.stop) },
              { label: 'Stands', mine: 'yes', theirs: now.cancelled ? `cancelled: ${now.cancelled}` : 'yes' },
            ].filter((a) => a.mine !== a.theirs)}
            onTheirs={onClose}
            onMine={() => void keep(cancelling?.trim() || undefined, now.version)}
          />
        ) : (
          problem && (
            <p className="caution record-wide" role="alert">
              <strong>{problem.detail}</strong> {problem.remedy}
            </p>
          )
        )}
      </DialogContent>
      <DialogActions>
        {visit &&
          (cancelling === undefined ? (
            <Button onClick={() => setCancelling('')}>Cancel the visit</Button>
          ) : (
            <Button disabled={cancelling.trim() === ''} onClick={() => void keep(cancelling.trim())}>
              Cancel it with that reason
            </Button>
          ))}
        <span className="grow" />
        <Button onClick={onClose}>Back</Button>
        <Button
          variant="contained"
          disabled={saving.isLoading || chosen.length === 0}
          onClick={() => void keep()}
        >
          {visit ? 'Keep the visit' : 'Plan it'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

const at = (problem: Problem | undefined, field: string): { error?: true; helperText?: string } => {
  const message = problem?.errors?.find((e) => e.field === field)?.message;
  return message ? { error: true, helperText: message } : {};
};

/** What a visit begins from, with what else of its site is due soon after. */
export function withAlong(
  first: readonly string[],
  site: string,
  day: string,
  due: readonly DueItem[],
): readonly string[] {
  const until = plusDays(day, ALONG_DAYS);
  const along = due.filter((d) => d.site.id === site && d.day <= until && !d.visit && !first.includes(d.id));
  return [...first, ...along.map((d) => d.id)];
}

/** The controls of the site in walking order: chosen ones first, each can go one earlier. */
function Walk({
  there,
  chosen,
  due,
  onChange,
}: {
  there: readonly (SiteControl & { readonly equipment: string })[];
  chosen: readonly string[];
  due: readonly DueItem[];
  onChange: (chosen: readonly string[]) => void;
}) {
  const order = [
    ...chosen.flatMap((id) => there.find((t) => t.id === id) ?? []),
    ...there.filter((t) => !chosen.includes(t.id)),
  ];
  const earlier = (id: string): void => {
    const i = chosen.indexOf(id);
    if (i <= 0) return;
    const next = [...chosen];
    next.splice(i - 1, 2, id, chosen[i - 1] ?? id);
    onChange(next);
  };
  return (
    <fieldset className="record-wide visit-walk">
      <legend className="eyebrow">In walking order</legend>
      {order.map((c) => {
        const on = chosen.includes(c.id);
        const reason = due.find((d) => d.id === c.id)?.reasons[0];
        return (
          <div key={c.id}>
            <FormControlLabel
              control={
                <Checkbox
                  checked={on}
                  onChange={() => onChange(on ? chosen.filter((x) => x !== c.id) : [...chosen, c.id])}
                />
              }
              label={
                <>
                  {c.name} <span className="soft">· {c.equipment}</span>
                </>
              }
            />
            <span className="soft">{reason ? `${said(reason.day)}: ${reason.because}` : ''}</span>
            {on && chosen.indexOf(c.id) > 0 && (
              <Button
                size="small"
                variant="text"
                onClick={() => earlier(c.id)}
                aria-label={`${c.name} earlier`}
              >
                Earlier
              </Button>
            )}
          </div>
        );
      })}
    </fieldset>
  );
}
