import { draftOf, makePlan, type Family } from '@firm-needle/core/family';
import {
  HELP_SAID,
  helpsAt,
  levelOf,
  LEVELS,
  surpriseShares,
  type Help,
  type LevelId,
} from '@firm-needle/core/practice';
import { families, loadFamily, loadKit } from '@firm-needle/families';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useEffect, useMemo, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { beginRun, type Chosen } from '../../practice/runs.ts';
import { useMe } from '../../store/me.ts';
import { DeviceDrawing } from '../../ui/drawing/DeviceDrawing.tsx';
import { Failed, Loading, NOT_HERE } from '../../ui/States.tsx';
import { OpenTests } from './OpenTests.tsx';
import { RunsList } from './RunsList.tsx';
import { useRuns, type Run } from './useRuns.ts';
import '../../practice/practice.css';

/** What is there to practise on, of one family. */
interface Bench {
  readonly family: Family;
  readonly variants: readonly string[];
}

/** @returns what is there of a kind; undefined while it comes, and `failed` where it cannot be had */
const useBench = (id: string): Bench | 'failed' | undefined => {
  const [bench, setBench] = useState<Bench>();
  const [failed, setFailed] = useState<string>();
  useEffect(() => {
    let wanted = true;
    void Promise.all([loadFamily(id), loadKit(id)]).then(
      ([family, kit]) => wanted && setBench({ family, variants: kit.variants.map((v) => v.name) }),
      () => wanted && setFailed(id),
    );
    return () => {
      wanted = false;
    };
  }, [id]);
  if (bench?.family.meta.id === id) return bench;
  return failed === id ? 'failed' : undefined;
};

/** How often somebody met each kind, and missed something there. */
const metIn = (runs: readonly Run[]) =>
  families().map(({ id }) => {
    const own = runs.filter((r) => r.family === id && r.over);
    return { runs: own.length, misses: own.filter((r) => r.missed.length > 0).length };
  });

/** Where one chooses what to practise, goes on with what is open, and finds what was done. */
export function PracticePage() {
  const { role } = useMe();
  const runs = useRuns();
  return (
    <>
      <div className="page-head">
        <h1>Practice</h1>
        <span className="grow" />
        {role === 'supervisor' && <Link to="/practice/overview">What everybody practised</Link>}
      </div>
      <p className="soft practice-lead">
        A simulated installation with something hidden in it. A mistake costs nothing here, and nothing of it
        stands in any history, date or gauge. What is hidden cannot be seen before you sign, though whoever
        debugs the page could find it.
      </p>
      <div className="practice-places">
        <Choose runs={runs.all} />
        <div className="practice-beside">
          <OpenTests />
          <RunsList runs={runs} />
        </div>
      </div>
    </>
  );
}

function Choose({ runs }: { runs: readonly Run[] }) {
  const me = useMe();
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const kinds = families();
  // An address may name what is not there: it is chosen from what is.
  const [familyId, setFamily] = useState(
    (kinds.find((k) => k.id === params.get('family')) ?? kinds[0])?.id ?? '',
  );
  const had = useBench(familyId);
  const bench = had === 'failed' ? undefined : had;
  const [variant, setVariant] = useState(params.get('variant') ?? '');
  const [level, setLevel] = useState<LevelId>(
    LEVELS.find((l) => String(l.id) === params.get('level'))?.id ?? 1,
  );
  const [help, setHelp] = useState<Help>('full');
  const [asked, setLesson] = useState(params.get('lesson') ?? '');
  const [busy, setBusy] = useState(false);
  const [failed, setFailed] = useState(false);
  const helps = helpsAt(levelOf(level));
  const chosenHelp = helps.includes(help) ? help : (helps[0] ?? 'bare');
  const chosenVariant = bench?.variants.includes(variant) ? variant : (bench?.variants[0] ?? '');
  const faults = [...(bench?.family.rig.faults ?? [])].sort((a, b) => a.title.localeCompare(b.title));
  const lesson = faults.some((f) => f.id === asked) ? asked : '';
  const lost = (): void => {
    setBusy(false);
    setFailed(true);
  };
  const begin = (more: Partial<Chosen> = {}): void => {
    setBusy(true);
    setFailed(false);
    beginRun(me.id, me.name, {
      kind: lesson ? 'lesson' : 'run',
      family: familyId,
      variant: chosenVariant,
      level,
      help: chosenHelp,
      ...(lesson ? { lesson } : {}),
      ...more,
    }).then((id) => void navigate(`/practice/runs/${id}`), lost);
  };
  const surprise = (): void => {
    const shares = surpriseShares(metIn(runs));
    let x = Math.random();
    const i = shares.findIndex((s) => (x -= s) < 0);
    const kind = kinds[i < 0 ? 0 : i];
    if (!kind) return;
    setBusy(true);
    void loadKit(kind.id).then(({ variants }) => {
      const v = variants[Math.floor(Math.random() * variants.length)];
      begin({ kind: 'run', family: kind.id, variant: v?.name ?? '', lesson: undefined });
    }, lost);
  };
  const drawing = useMemo(
    () =>
      bench?.family.drawing(
        makePlan(bench.family, draftOf(bench.family, bench.family.variants[0]?.id ?? '', {})),
      ),
    [bench],
  );
  return (
    <section className="practice-choose" aria-label="Choose">
      <div className="practice-kind">
        <div className="practice-device">
          {drawing ? (
            <DeviceDrawing drawing={drawing} lit={[]} said="" />
          ) : (
            had !== 'failed' && <Loading what="the kind" />
          )}
        </div>
        <div className="practice-fields">
          <TextField
            select
            size="small"
            label="Kind"
            value={familyId}
            onChange={(e) => {
              setFamily(e.target.value);
              setLesson('');
            }}
          >
            {kinds.map((k) => (
              <MenuItem key={k.id} value={k.id}>
                {k.title}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            size="small"
            label="Installation"
            value={chosenVariant}
            onChange={(e) => setVariant(e.target.value)}
          >
            {(bench?.variants ?? ['']).map((v) => (
              <MenuItem key={v} value={v}>
                {v}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            size="small"
            label="What is hidden"
            value={lesson}
            onChange={(e) => setLesson(e.target.value)}
            slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
          >
            <MenuItem value="">Hidden, as in life</MenuItem>
            {faults.map((f) => (
              <MenuItem key={f.id} value={f.id}>
                A lesson: {f.title.toLowerCase()}
              </MenuItem>
            ))}
          </TextField>
        </div>
      </div>
      <fieldset className="practice-levels">
        <legend>Level</legend>
        {LEVELS.map((l) => (
          <label key={l.id} className={l.id === level ? 'on' : ''}>
            <input type="radio" name="level" checked={l.id === level} onChange={() => setLevel(l.id)} />
            <strong>{l.title}</strong> <span>{l.what}</span>
          </label>
        ))}
      </fieldset>
      <fieldset className="practice-levels">
        <legend>Help</legend>
        {helps.map((h) => (
          <label key={h} className={h === chosenHelp ? 'on' : ''}>
            <input type="radio" name="help" checked={h === chosenHelp} onChange={() => setHelp(h)} />
            <strong>{HELP_SAID[h].title}</strong> <span>{HELP_SAID[h].what}</span>
          </label>
        ))}
      </fieldset>
      {(failed || had === 'failed') && <Failed problem={NOT_HERE} />}
      <div className="acts">
        <Button className="primary" variant="contained" disabled={busy || !bench} onClick={() => begin()}>
          {busy ? 'Drawing …' : lesson ? 'Begin the lesson' : 'Begin'}
        </Button>
        <Button disabled={busy} onClick={surprise}>
          Surprise me
        </Button>
      </div>
    </section>
  );
}
