import { format, parseISO } from 'date-fns';
import { useParams } from 'react-router';
import { useSharedQuery } from '../../store/api.ts';
import { Loading, problemOf } from '../../ui/States.tsx';
import { Record } from '../sheet/SheetView.tsx';
import '../../handover/share.css';

/** What stands behind a customer's link: the sheet, and its file. */
export function SharedPage() {
  const { token = '' } = useParams();
  const shared = useSharedQuery(token, { refetchOnMountOrArgChange: true });
  if (shared.isLoading) return <Loading what="the sheet" />;
  const problem = problemOf(shared.error);
  if (!shared.data || problem)
    return (
      <main className="shared-none">
        <h1>{problem?.status === 410 ? 'This link no longer reads' : 'No sheet here'}</h1>
        <p>
          {problem?.detail ?? 'The server cannot be reached.'} {problem?.remedy}
        </p>
      </main>
    );
  const path = `/api/v1/shared/${encodeURIComponent(token)}`;
  return (
    <div className="sheet-page">
      <nav className="sheet-bar no-print">
        <span className="soft">
          Read-only, until {format(parseISO(shared.data.expiresAt), 'd MMMM yyyy')}
        </span>
        <span className="grow" />
        <a className="as-button" href={`${path}/sheet.pdf`}>
          The sheet as PDF
        </a>
      </nav>
      <main>
        <Record doc={shared.data.doc} photo={(hash) => `${path}/photos/${hash}`} />
      </main>
    </div>
  );
}
