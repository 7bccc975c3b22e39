import { objections } from '@firm-needle/core/family';
import Button from '@mui/material/Button';
import { useEffect, useState } from 'react';
import { useParams, Link } from 'react-router';
import { fileUrl, giveFile } from '../../handover/files.ts';
import { ShareDialog } from '../../handover/ShareDialog.tsx';
import { useControlQuery, useJobQuery, useSealQuery, useSitesQuery } from '../../store/api.ts';
import { useMe } from '../../store/me.ts';
import type { DueReason } from '@firm-needle/core/history';
import type { Control, JobInfo } from '@firm-needle/contract';
import { handedOver } from '../../sync/handOver.ts';
import { outbox } from '../../sync/outbox.ts';
import { useJob, type OpenJob } from '../../sync/useJob.ts';
import { Failed, Loading } from '../../ui/States.tsx';
import { SheetDocument } from './SheetView.tsx';

/** By the server's own fold where it is known; until then by this device's, which is the same core. */
function objectionsTo(job: OpenJob, info: JobInfo | undefined): readonly string[] {
  const signed = job.view.state.signed?.body;
  if (!signed) return [];
  if (info?.signedAt && info.result) return info.result.objections;
  return objections(job.family, job.view, signed.outcome).map((o) => o.message);
}

/** The soonest of what the control is due for, where this sheet is its newest. */
const nextOf = (control: Control | undefined, job: string): DueReason | undefined =>
  control?.jobs.find((j) => j.signedAt)?.id === job ? control.reasons[0] : undefined;

/** The sheet by itself, to be read and printed. */
export function SheetPage() {
  const { id = '' } = useParams();
  const me = useMe();
  const { job, missing } = useJob(id, me.id);
  const seal = useSealQuery(id);
  const info = useJobQuery(id);
  const control = useControlQuery(info.data?.controlId ?? '', { skip: !info.data?.signedAt });
  const { refetch: checkSeal } = seal;
  const { refetch: askAgain } = info;
  // What was still on its way when the sheet was opened changes the seal once it has arrived.
  useEffect(
    () =>
      outbox.onSent((job) => {
        if (job !== id) return;
        void checkSeal();
        void askAgain();
      }),
    [id, checkSeal, askAgain],
  );
  const [countersigning, setCountersigning] = useState(false);
  const [wrong, setWrong] = useState<string>();
  const [sharing, setSharing] = useState(false);
  const [giving, setGiving] = useState<'tag' | 'pdf'>();
  /** What the server writes stands on what the server has: a moment after signing some may still be on its way. */
  const sent = async (): Promise<boolean> => {
    const why = await handedOver(outbox, me.id, id);
    setWrong(why && `${why.detail} ${why.remedy}`);
    return !why;
  };
  const tag = async (control: string): Promise<void> => {
    setGiving('tag');
    if (await sent()) window.open(fileUrl(`/controls/${control}/tag.pdf`), '_blank');
    setGiving(undefined);
  };
  const give = async (): Promise<void> => {
    setGiving('pdf');
    if (!(await sent())) return setGiving(undefined);
    const name = `${job?.view.started.control.name ?? 'sheet'}.pdf`;
    const given = await giveFile(fileUrl(`/jobs/${id}/sheet.pdf`), name);
    if (typeof given === 'object') setWrong(given.failed);
    setGiving(undefined);
  };
  const countersign = async (): Promise<void> => {
    if (!job || countersigning) return;
    setCountersigning(true);
    try {
      await job.session.append({ kind: 'countersign', by: me.name });
      setWrong(undefined);
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error));
    } finally {
      setCountersigning(false);
    }
  };
  // The customer’s own unit stands with the site, which this device may not have.
  const sites = useSitesQuery(undefined, { skip: !job });
  const site = sites.data?.items.find((s) => s.id === job?.view.started.site.id);
  if (missing)
    return (
      <Failed
        problem={{
          status: 404,
          code: 'not-found',
          detail: 'This job is not on this device, and the server does not have it or cannot be reached.',
        }}
      />
    );
  if (!job) return <Loading what="the sheet" />;
  const signed = job.view.state.signed;
  return (
    <div className="sheet-page">
      <nav className="sheet-bar no-print">
        <Button component={Link} to="/">
          Today
        </Button>
        <Button component={Link} to={`/controls/${job.view.started.control.id}`}>
          The control
        </Button>
        {!signed && (
          <Button component={Link} to={`/jobs/${id}`}>
            Back to the work
          </Button>
        )}
        {signed && me.role === 'supervisor' && signed.author !== me.id && !job.view.state.countersigned && (
          <Button disabled={countersigning} onClick={() => void countersign()}>
            Countersign
          </Button>
        )}
        {wrong && (
          <span className="caution" role="alert">
            {wrong}
          </span>
        )}
        <span className="grow" />
        <Button onClick={() => print()}>Print</Button>
        {signed && me.role !== 'reader' && (
          <Button disabled={!!giving} onClick={() => void tag(job.view.started.control.id)}>
            Tag
          </Button>
        )}
        {signed && me.role !== 'reader' && <Button onClick={() => setSharing(true)}>Share a link</Button>}
        <Button variant="contained" disabled={!!giving} onClick={() => void give()}>
          {giving === 'pdf' ? 'Writing …' : 'PDF'}
        </Button>
      </nav>
      <main>
        <SheetDocument
          family={job.family}
          job={job.view}
          seal={seal.data}
          organisation={me.organisation.name}
          flags={info.data?.flags.map((f) => f.text) ?? []}
          frozen={signed ? (info.data?.result?.sheet ?? undefined) : undefined}
          objections={objectionsTo(job, info.data)}
          next={nextOf(control.data, id)}
          unit={site?.unit ?? undefined}
        />
      </main>
      {sharing && (
        <ShareDialog job={id} title={job.view.started.control.name} onClose={() => setSharing(false)} />
      )}
    </div>
  );
}
