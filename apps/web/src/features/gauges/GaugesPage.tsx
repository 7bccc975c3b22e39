import Button from '@mui/material/Button';
import { isOverdue } from '@firm-needle/core/family';
import { classText, rangeText } from '@firm-needle/core/gauge';
import { symbolOf } from '@firm-needle/core/quantity';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { format, parseISO } from 'date-fns';
import { useState } from 'react';
import { Link } from 'react-router';
import { useGaugesQuery } from '../../store/api.ts';
import { useMe } from '../../store/me.ts';
import { Empty, Failed, Loading, problemOf } from '../../ui/States.tsx';
import { useWide } from '../../ui/useWide.ts';
import { GaugeDialog } from './GaugeDialog.tsx';
import { KIND, STANDING } from './words.ts';
import './gauges.css';

/** The firm's test gauges. */
export function GaugesPage() {
  const gauges = useGaugesQuery();
  const wide = useWide();
  const me = useMe();
  const [adding, setAdding] = useState(false);
  const today = format(new Date(), 'yyyy-MM-dd');
  if (gauges.isLoading) return <Loading what="the gauges" />;
  if (!gauges.data) return <Failed problem={problemOf(gauges.error)} retry={() => void gauges.refetch()} />;
  return (
    <>
      <div className="page-head">
        <h1>Gauges</h1>
        <span className="soft">{gauges.data.items.filter((g) => !g.retired).length} of the firm’s own</span>
        <span className="grow" />
        {me.role !== 'reader' && <Button onClick={() => setAdding(true)}>Add a gauge</Button>}
        {adding && <GaugeDialog gauge={undefined} onClose={() => setAdding(false)} />}
      </div>
      {gauges.data.items.length === 0 && (
        <Empty>
          No gauge is entered yet. Enter your test gauges first: what they can tell decides what can be
          proved.
        </Empty>
      )}
      <Table>
        <TableHead>
          <TableRow>
            <TableCell>Label</TableCell>
            <TableCell>Range</TableCell>
            {wide && <TableCell>Kind</TableCell>}
            {wide && <TableCell>Accuracy</TableCell>}
            {wide && <TableCell>Division</TableCell>}
            <TableCell>Due</TableCell>
            <TableCell>Last check</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {gauges.data.items.map((g) => (
            <TableRow key={g.id}>
              <TableCell>
                <Link className="gauge-link" to={`/gauges/${g.id}`}>
                  {g.label}
                </Link>
              </TableCell>
              <TableCell className="figure">{rangeText(g)}</TableCell>
              {wide && <TableCell>{KIND[g.kind]}</TableCell>}
              {wide && <TableCell>{classText(g.accuracy)}</TableCell>}
              {wide && (
                <TableCell className="figure">
                  {g.division} {symbolOf(g.unit)}
                </TableCell>
              )}
              <TableCell>
                {g.due ? format(parseISO(g.due), 'd MMM yyyy') : '–'}
                {!g.retired && isOverdue(g, today) && <strong> overdue</strong>}
              </TableCell>
              <TableCell>
                {g.retired ? (
                  <strong>retired</strong>
                ) : g.standing ? (
                  g.standing.state === 'fit' ? (
                    'fit'
                  ) : (
                    <strong>{STANDING[g.standing.state]}</strong>
                  )
                ) : (
                  <span className="soft">none</span>
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </>
  );
}
