import { useAppSelector } from '../store/index.ts';

/** Where the records are: how many only on this device, how many sent. */
export function SyncStatus({ short = false }: { short?: boolean }) {
  const { kept, sent, status, problem } = useAppSelector((s) => s.ui.outbox);
  const text =
    status === 'signed-out'
      ? `signed out, ${kept} kept here`
      : status === 'refused'
        ? `${kept} refused, kept here`
        : status === 'waiting'
          ? `no server, ${kept} kept here`
          : kept === 0
            ? short
              ? 'all sent'
              : sent === 0
                ? 'nothing to send'
                : `all ${sent} sent`
            : short
              ? `${kept} kept here`
              : `${kept} kept here, ${sent} sent`;
  return (
    <span className={`sync ${status}`} role="status" title={problem?.detail}>
      {text}
    </span>
  );
}
