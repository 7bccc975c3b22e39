import { eventsCsv, figuresCsv } from '@firm-needle/tables';
import { no } from '../answer.js';
import type { Options } from '../options.js';
import { figuresOf, howRead, kindNamed, traced } from './traces/analysed.js';
import { summary } from './traces/summary.js';
import { writeTo } from './traces/written.js';

/** `trace FILE… --family FAMILY`: figures, events, cycles and the lines that could not be read; several files are one trace. */
export async function traceCommand(o: Options): Promise<object> {
  const folder = o.one('summary');
  const family = o.one('family') ?? '';
  const alone = o.words.length > 0 ? 'file' : ['figures', 'events'].find((n) => o.has(n));
  if (folder !== undefined && alone !== undefined)
    no('option-twice', '--summary reads the files of its folder, each by itself, and writes --csv.', {
      where: alone,
    });
  if (folder === undefined && o.has('csv'))
    no('option-alone', '--csv is written by --summary.', {
      where: '--csv',
      remedy: 'Use --figures or --events.',
    });
  if (folder !== undefined) return summary(folder, family, o);
  if (o.words.length === 0) no('file-missing', 'Name a file, or - for standard input.', { where: 'file' });
  return traceFiles(o.words, family, o);
}

export const traceFile = (path: string, family: string, o: Options): Promise<object> =>
  traceFiles([path], family, o);

async function traceFiles(paths: readonly string[], family: string, o: Options): Promise<object> {
  const kind = kindNamed(family);
  const { tables, joined, analysis: a, ambient, unit } = await traced(paths, kind, o);
  await writeTo(o, 'figures', () => figuresCsv(a.figures, unit));
  await writeTo(o, 'events', () => eventsCsv(a.events, unit));
  const [only] = tables;
  return {
    ...(tables.length === 1 && only
      ? { read: howRead(only, ambient) }
      : {
          files: tables.map((table, i) => ({ file: paths[i], read: howRead(table, ambient) })),
          order: joined?.order,
          twice: joined?.twice,
        }),
    samples: a.samples,
    duration_s: a.duration_s,
    figures: figuresOf(a),
    events: a.events.map((e) => ({ kind: e.kind, t_s: e.t, p_Pa: e.p, u_Pa: 2 * e.u })),
    cycles: a.cycles.map((c) => ({
      cutIn_Pa: c.cutIn,
      cutOut_Pa: c.cutOut,
      on_s: c.on_s,
      off_s: c.off_s ?? null,
    })),
    problems: [
      ...tables.flatMap((table, i) =>
        table.problems.map((p) => (tables.length === 1 ? p : { file: paths[i], ...p })),
      ),
      ...a.gaps.map((g) => ({ line: null, message: `No samples from ${g.from} to ${g.to} s.` })),
      ...(a.nothing ? [{ line: null, message: a.nothing }] : []),
    ],
  };
}
