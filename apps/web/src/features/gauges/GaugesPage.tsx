import { classText, rangeText } from '@firm-needle/core';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { format, isPast, parseISO } from 'date-fns';
import { useGaugesQuery } from '../../store/api.ts';
import { Empty, Failed, Loading, problemOf } from '../../ui/States.tsx';
import { useWide } from '../../ui/useWide.ts';

const KIND: Readonly<Record<string, string>> = {
  bourdon: 'Bourdon',
  digital: 'digital',
  'u-tube': 'U-tube',
  diaphragm: 'diaphragm',
  bench: 'bench',
};

/** The firm's test gauges. */
export function GaugesPage() {
  const gauges = useGaugesQuery();
  const wide = useWide();
  if (gauges.isLoading) return <Loading what="the gauges" />;
  if (!gauges.data) return <Failed problem={problemOf(gauges.error)} retry={() => void gauges.refetch()} />;
  if (gauges.data.items.length === 0) return <Empty>No gauge is entered yet.</Empty>;
  return (
    <>
      <div className="page-head">
        <h1>Gauges</h1>
        <span className="soft">{gauges.data.items.length} of the firm’s own</span>
      </div>
      <Table>
        <TableHead>
          <TableRow>
            <TableCell>Label</TableCell>
            <TableCell>Range</TableCell>
            {wide && <TableCell>Kind</TableCell>}
            {wide && <TableCell>Accuracy</TableCell>}
            {wide && <TableCell>Division</TableCell>}
            <TableCell>Due</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {gauges.data.items.map((g) => (
            <TableRow key={g.id}>
              <TableCell>
                <strong>{g.label}</strong>
              </TableCell>
              <TableCell className="figure">{rangeText(g)}</TableCell>
              {wide && <TableCell>{KIND[g.kind]}</TableCell>}
              {wide && <TableCell>{classText(g.accuracy)}</TableCell>}
              {wide && (
                <TableCell className="figure">
                  {g.division} {g.unit}
                </TableCell>
              )}
              <TableCell>
                {g.due ? format(parseISO(g.due), 'd MMM yyyy') : '–'}
                {g.due && isPast(parseISO(g.due)) && <strong> overdue</strong>}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </>
  );
}
