import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { BytePort } from '../../live/serialSource.ts';
import { SOURCES } from '../../live/source.ts';
import { knownPort } from '../../live/webSerial.ts';
import { useMe } from '../../store/me.ts';
import { useJob } from '../../sync/useJob.ts';
import { Failed, Loading } from '../../ui/States.tsx';
import { useNoRepeat } from '../../ui/useKeys.ts';
import { useLiveSource } from './useLiveSource.ts';
import { Workplace } from './Workplace.tsx';

/** One job: Walk, Work and Sheet, side by side or as tabs. */
export function WorkPage() {
  const { id = '' } = useParams();
  const me = useMe();
  const { job, missing, holderKnown } = useJob(id, me.id);
  useNoRepeat();
  const [port, setPort] = useState<BytePort>();
  const live = useLiveSource(job?.family, job?.view, port);
  const serial = job?.view.started.source === SOURCES.serial;
  useEffect(() => {
    // After a reload the browser still knows the gauge that was chosen.
    if (serial) void knownPort().then((known) => known && setPort(known));
  }, [serial]);
  const navigate = useNavigate();
  const signed = job?.view.state.signed !== undefined;
  const [wasOpen, setWasOpen] = useState(false);
  useEffect(() => {
    if (job && !signed) setWasOpen(true);
    // Signing ends the work and shows what was signed.
    if (signed && wasOpen) void navigate(`/jobs/${id}/sheet`);
  }, [job, signed, wasOpen, id, navigate]);
  if (missing)
    return (
      <Failed
        problem={{
          status: 404,
          code: 'not-found',
          detail: 'This job is not on this device, and the server does not have it or cannot be reached.',
          remedy: 'Go back to today and choose it again.',
        }}
      />
    );
  if (!job) return <Loading what="the job" />;
  return (
    <Workplace
      job={job}
      live={live}
      holderKnown={holderKnown}
      onPort={serial && !port ? setPort : undefined}
    />
  );
}
