import { chooseGauges, pickGauges, startJob, type Family } from '@firm-needle/core/family';
import { slotsOf, type Plan } from '@firm-needle/core/procedure';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { format, parseISO } from 'date-fns';
import { lazy, Suspense, useMemo, useRef, useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { v7 as uuid } from 'uuid';
import { api, useControlQuery, useGaugesQuery, useSavePlanMutation } from '../../store/api.ts';
import { useAppDispatch } from '../../store/index.ts';
import { isAway } from '../../store/keep.ts';
import { SOURCES } from '../../live/source.ts';
import { hasSerial } from '../../live/webSerial.ts';
import { useMe } from '../../store/me.ts';
import type { Control, FirmGauge } from '@firm-needle/contract';
import { JobSession } from '../../sync/jobSession.ts';
import { NotKept } from '../../sync/logSession.ts';
import { outbox } from '../../sync/outbox.ts';
import { useFamily } from '../../sync/useJob.ts';
import { useKeys } from '../../ui/useKeys.ts';
import { Picture } from '../../ui/picture/Picture.tsx';
import { Empty, Failed, Loading, problemOf } from '../../ui/States.tsx';
import { Beside, linksOf } from './Beside.tsx';
import { GaugePicker } from './GaugePicker.tsx';
import { History } from './History.tsx';
import { PlanChoices } from '../../planning/PlanChoices.tsx';
import { PlanFigures } from '../../planning/PlanFigures.tsx';
import { Plate } from '../../planning/Plate.tsx';
import { useCircumstances } from './useCircumstances.ts';
import { usePlan } from '../../planning/usePlan.ts';
import '../../planning/plan.css';

/** No live source: what the gauges show is typed. */
const TYPED = 'typed';

const LearnedTurns = lazy(() => import('../../planning/LearnedTurns.tsx'));

/** A control: its plan on the ladder, its plate, its gauges, its past; and the start of a job. */
export function PlanPage() {
  const { id = '' } = useParams();
  const control = useControlQuery(id);
  const gauges = useGaugesQuery();
  const family = useFamily(control.data?.available ? control.data.family : undefined);
  // A plan that was kept is what is planned from next.
  const [kept, setKept] = useState(0);
  if (control.isLoading || gauges.isLoading) return <Loading what="the control" />;
  if (!control.data)
    return <Failed problem={problemOf(control.error)} retry={() => void control.refetch()} />;
  if (!control.data.available)
    return <Empty>Controls of this kind cannot be opened in this version yet. {control.data.story}</Empty>;
  if (!family) return <Loading what="its procedure" />;
  return (
    <Planner
      key={`${control.data.id} ${kept}`}
      onKept={() => setKept(kept + 1)}
      control={control.data}
      family={family}
      gauges={gauges.data?.items ?? []}
    />
  );
}

/** What was retired is not offered. */
const inUse = (gauges: readonly FirmGauge[]): readonly FirmGauge[] => gauges.filter((g) => !g.retired);

/** When it is due next, and the soonest reason. */
function NextDate({ control }: { control: Control }) {
  const [first] = control.reasons;
  if (!first) return null;
  return (
    <p className="plan-next soft">
      Next {format(parseISO(first.day), 'd MMM yyyy')}: {first.because}
    </p>
  );
}

function Planner({
  control,
  family,
  gauges,
  onKept,
}: {
  onKept: () => void;
  control: Control;
  family: Family;
  gauges: readonly FirmGauge[];
}) {
  const me = useMe();
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const [params] = useSearchParams();
  const visit = params.get('visit') ?? undefined;
  const around = useCircumstances(control.site);
  const planning = usePlan(family, control, around.barometer_Pa);
  const { plan, findings, pushed } = planning;
  const own = control.gauge ?? undefined;
  const choices = useMemo(
    () => chooseGauges(family, plan, inUse(gauges), format(new Date(), 'yyyy-MM-dd'), own),
    [family, plan, gauges, own],
  );
  const [chosen, setChosen] = useState<Readonly<Record<string, string>>>({});
  const named = useRef<{ readonly plan: Plan; readonly path: string }>(undefined);
  /** Where it is kept: the same plan, however often, is one. */
  const planPath = (): string => {
    if (named.current?.plan !== plan)
      named.current = { plan, path: `/controls/${control.id}/plans/${uuid()}` };
    return named.current.path;
  };
  const demo = me.organisation.demo;
  const [source, setSource] = useState<string>(demo ? SOURCES.rig : TYPED);
  const occasions = family.occasions ?? [];
  const [occasion, setOccasion] = useState(occasions[0]?.id ?? '');
  const [refused, setRefused] = useState<string>();
  // A second press while the first is being kept must not start a second job.
  const [starting, setStarting] = useState(false);
  const [reasons, setReasons] = useState<Readonly<Record<string, string>>>({});
  const may = me.role !== 'reader';
  const movable = family.ladder(plan).some((p) => p.part === 'mark' && p.movable);
  const refusals = findings.filter((f) => f.severity === 'refuse');
  const picks = pickGauges(choices, chosen);
  const picked = Object.fromEntries(Object.entries(picks).map(([slot, { gauge }]) => [slot, gauge]));

  const start = async (): Promise<void> => {
    const started = startJob(family, {
      plan,
      ...(occasion ? { occasion } : {}),
      site: {
        ...control.site,
        ...(around.barometer_Pa === undefined ? {} : { barometer_Pa: around.barometer_Pa }),
      },
      heads_m: around.heads_m,
      control: { id: control.id, name: control.name, equipment: control.equipment.name },
      technician: me.name,
      permits: me.permits,
      gauges: picked,
      rule: me.organisation.rule,
      today: format(new Date(), 'yyyy-MM-dd'),
      gaugeReasons: reasons,
      links: linksOf(control),
      ...(source === TYPED ? {} : { source }),
      ...(control.device ? { learned: control.device.learned } : {}),
    });
    if (!started.ok) {
      setRefused(`${started.refusal.message} ${started.refusal.remedy ?? ''}`);
      return;
    }
    setStarting(true);
    const job = uuid();
    const session = new JobSession(job, me.id);
    try {
      await outbox.keep([
        ...(planning.changed
          ? [
              {
                path: planPath(),
                body: { version: plan.version, plan },
              },
            ]
          : []),
        { path: `/jobs/${job}`, body: { controlId: control.id, ...(visit ? { visitId: visit } : {}) } },
      ]);
      await session.append(started.value);
    } catch (error) {
      setStarting(false);
      setRefused(error instanceof NotKept ? error.message : 'This device could not keep the job. Try again.');
      return;
    }
    outbox.kick();
    void navigate(`/jobs/${job}${visit ? `?visit=${visit}` : ''}`);
  };

  const [savePlan, saving] = useSavePlanMutation();
  const keepPlan = async (): Promise<void> => {
    setRefused(undefined);
    const body = { version: plan.version, plan };
    const path = planPath();
    const problem = problemOf((await savePlan({ path, body })).error);
    if (!problem) {
      await dispatch(api.endpoints.control.initiate(control.id, { subscribe: false, forceRefetch: true }));
      onKept();
    } else if (isAway(problem)) {
      await outbox.keep([{ path, body }]);
      setRefused('There is no server now: the plan is kept on this device, and sent when there is.');
    } else setRefused(`${problem.detail} ${problem.remedy ?? ''}`);
  };

  useKeys({ s: may && refusals.length === 0 && !starting ? () => void start() : undefined });

  return (
    <>
      <div className="page-head">
        <h1>{control.name}</h1>
        <span className="soft">
          <Link to={`/sites/${control.site.id}`}>{control.site.name}</Link>, {control.site.altitude_m} m ·{' '}
          {control.equipment.name}
          {control.retired && <strong> · retired</strong>}
        </span>
        <span className="grow" />
        {control.version > 0 && <Link to={`/controls/${control.id}/life`}>Its life</Link>}
        <NextDate control={control} />
        {control.story && <p className="plan-story">{control.story}</p>}
      </div>
      <div className="plan">
        <section className="plan-picture" aria-label="Plan on the ladder">
          <Picture
            family={family}
            plan={plan}
            gauge={picked[slotsOf(family, plan)[0]?.id ?? '']}
            onMove={planning.move}
            forbidden={
              new Set([
                ...refusals.flatMap((f) => (f.about ? [f.about] : [])),
                ...(pushed ? [pushed.about] : []),
              ])
            }
          />
          <p className={`plan-push${pushed ? ' caution' : ' soft'}`} role="status">
            {pushed
              ? pushed.message
              : movable
                ? 'Drag a mark, nudge it with the arrow keys, or type it. What follows from it moves along.'
                : 'What the readings will be held against.'}
          </p>
          <History family={family} control={control} />
          {control.device && (
            <Suspense fallback={null}>
              <LearnedTurns family={family} control={control} />
            </Suspense>
          )}
        </section>
        <section className="plan-side" aria-label="Plan in figures">
          <PlanChoices family={family} planning={planning} occasion={{ id: occasion, choose: setOccasion }} />
          <PlanFigures family={family} planning={planning} />
          <Plate family={family} planning={planning} editable={may && !control.gauge} />
          <Beside family={family} control={control} planning={planning} editable={may} />
          <GaugePicker
            choices={choices}
            chosen={picks}
            onChoose={(slot, g) => setChosen({ ...chosen, [slot]: g })}
            reasons={reasons}
            onReason={(slot, text) => setReasons({ ...reasons, [slot]: text })}
            around={around}
          />

          {may && (demo || hasSerial()) && (
            <ToggleButtonGroup
              exclusive
              size="small"
              className="plan-source"
              value={source}
              onChange={(_, v: string | null) => v && setSource(v)}
              aria-label="Where readings come from"
            >
              {demo && <ToggleButton value={SOURCES.rig}>Simulated rig</ToggleButton>}
              {demo && choices.length > 0 && (
                <ToggleButton value={SOURCES.simulatedGauge}>Simulated serial gauge</ToggleButton>
              )}
              {hasSerial() && choices.length > 0 && (
                <ToggleButton value={SOURCES.serial}>Serial gauge</ToggleButton>
              )}
              <ToggleButton value={TYPED}>
                {choices.length > 0 ? 'Typed from my gauges' : 'By my own eyes'}
              </ToggleButton>
            </ToggleButtonGroup>
          )}
          {refused && (
            <p className="caution" role="alert">
              {refused}
            </p>
          )}
          {may && planning.changed && refusals.length === 0 && (
            <Button size="large" disabled={saving.isLoading} onClick={() => void keepPlan()}>
              Keep the plan
            </Button>
          )}
          {may ? (
            <Button
              variant="contained"
              size="large"
              disabled={refusals.length > 0 || starting}
              onClick={() => void start()}
            >
              Start the job <kbd>S</kbd>
            </Button>
          ) : (
            <p className="soft">Your account may look, not work.</p>
          )}
          {control.jobs.find((j) => !j.signedAt) && (
            <p>
              A job is open here.{' '}
              <Link
                to={`/jobs/${control.jobs.find((j) => !j.signedAt)?.id}${visit ? `?visit=${visit}` : ''}`}
              >
                Go on with it
              </Link>
            </p>
          )}
        </section>
      </div>
    </>
  );
}
