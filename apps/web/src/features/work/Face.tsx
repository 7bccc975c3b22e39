import Button from '@mui/material/Button';
import { sayStep } from '@firm-needle/core/family';
import type { OpenJob } from '../../sync/useJob.ts';
import { NextMoveCard } from './NextMoveCard.tsx';
import { ObserveFace } from './faces/ObserveFace.tsx';
import { ReadFace } from './faces/ReadFace.tsx';
import { SignFace } from './faces/SignFace.tsx';
import { Cautions } from '../../ui/Caution.tsx';
import { ConfirmFace, CountFace, MissingFace, WaitFace } from './faces/simple.tsx';
import { TurnFace } from './faces/TurnFace.tsx';
import { ZeroFace } from './faces/ZeroFace.tsx';
import type { Actions } from './useActions.ts';
import type { FaceProps } from './faces/types.ts';
import type { Live } from './useLiveSource.ts';

interface Props {
  readonly job: OpenJob;
  readonly live: Live | undefined;
  readonly actions: Actions;
  /** Another device holds the job. */
  readonly held: boolean;
  /** The step's cautions stand in a place of their own. */
  readonly apart?: boolean;
  readonly onStop: () => void;
  /** The plan is to be changed before the step is answered. */
  readonly onPlan: () => void;
}

/** The face of what is to be done now: one of eight kinds of step, an interlock, a hand-over, or the signature. */
export function Face({ job, live, actions, held, apart = false, onStop, onPlan }: Props) {
  const { offered, family, view } = job;
  const item = offered.now;
  if (held)
    return (
      <>
        <NextMoveCard
          move={{
            say: `${view.started.technician} has this job on another device.`,
            why: 'Take it over to go on here; what is entered there afterwards is kept and shown aside.',
          }}
        />
        <div className="acts">
          <Button className="primary" variant="contained" onClick={() => void actions.take()}>
            Take it over
          </Button>
        </div>
      </>
    );
  if (!item) return <SignFace job={job} actions={actions} />;
  const key = `${item.step.key} ${item.pass}`;
  // A source that does not read this step's gauge leaves it to be typed.
  const slot = 'slot' in item.step ? item.step.slot : undefined;
  const face = {
    job,
    live: slot === undefined || live?.session.gives(slot) ? live : undefined,
    actions,
    item,
  };
  if (offered.permit) {
    const permit = family.permits.find((p) => p.id === offered.permit);
    return (
      <>
        <NextMoveCard
          move={{
            say: `This step needs a permit: ${permit?.title ?? offered.permit}.`,
            why: 'Hand the job to somebody who holds it, or end it here.',
          }}
        />
        <div className="acts">
          <Button onClick={onStop}>End the job here</Button>
        </div>
      </>
    );
  }
  const missing = offered.missing[0];
  if (missing) return <MissingFace key={`${key} ${missing.fact}`} {...face} missing={missing} />;
  return (
    <>
      {!apart && <Cautions all={family.cautions} keys={job.cautions} />}
      <StepFace key={key} {...face} item={item} onStop={onStop} />
      {item.step.kind === 'observe' && item.step.asksPlan && (
        <div className="acts">
          <Button onClick={onPlan}>Change the plan</Button>
        </div>
      )}
      {family.adjusters.some((a) => view.refines(a.id)) && (
        <div className="acts">
          <Button onClick={() => void actions.leaveNear(item)}>Leave it, near its limit</Button>
        </div>
      )}
    </>
  );
}

/** One of the kinds of step. */
function StepFace({ onStop, ...face }: FaceProps & { readonly onStop: () => void }) {
  const { job, actions, item } = face;
  const { step } = item;
  switch (step.kind) {
    case 'confirm':
      return <ConfirmFace {...face} step={step} />;
    case 'zero':
      return <ZeroFace {...face} step={step} />;
    case 'read':
      return <ReadFace {...face} step={step} />;
    case 'observe':
      return <ObserveFace {...face} step={step} />;
    case 'turn':
      return <TurnFace {...face} step={step} onStop={onStop} />;
    case 'wait':
      return <WaitFace {...face} step={step} />;
    case 'count':
      return <CountFace {...face} step={step} />;
    case 'note':
      return (
        <>
          <NextMoveCard move={sayStep(job.family, job.view, step)} />
          <div className="acts">
            <Button className="primary" variant="contained" onClick={() => void actions.done(item)}>
              Go on
            </Button>
          </div>
        </>
      );
  }
}
