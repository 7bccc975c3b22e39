import { flow, gap, paragraph, stack, type Block } from '../paper/blocks.js';
import { INK, Paper, SOFT } from '../paper/paper.js';
import { A4 } from './sheetPdf.js';

/** What was done at a site in one visit. */
export interface VisitText {
  readonly firm: string;
  readonly site: string;
  readonly day: string;
  readonly by: string;
  readonly purpose: string;
  readonly controls: readonly {
    readonly name: string;
    readonly equipment: string;
    readonly outcome: string;
    readonly sentences: readonly string[];
  }[];
}

const SIZE = 10.5;

/** One page for who was not there: each control with its three sentences. */
export async function visitPdf(visit: VisitText): Promise<Buffer> {
  const paper = new Paper({
    title: `Visit to ${visit.site}, ${visit.day}`,
    author: visit.firm,
    size: A4,
    margin: 48,
  });
  const blocks: readonly Block[] = [
    stack([
      paragraph(paper, [{ text: visit.firm, tone: SOFT }], SIZE),
      paragraph(paper, [{ text: visit.site, style: 'bold' }], SIZE * 2, { tag: 'H1' }),
      paragraph(paper, [{ text: `${visit.day}${visit.by ? ` · ${visit.by}` : ''}` }], SIZE * 1.1),
      ...(visit.purpose ? [paragraph(paper, [{ text: visit.purpose, tone: SOFT }], SIZE)] : []),
      gap(paper, 12, { weight: 1.4, tone: INK }),
    ]),
    ...visit.controls.map((c) =>
      stack([
        paragraph(
          paper,
          [
            { text: `${c.name}  `, style: 'bold' },
            { text: c.equipment, tone: SOFT },
          ],
          SIZE * 1.2,
          { tag: 'H2', before: 8 },
        ),
        paragraph(paper, [{ text: c.outcome, style: 'bold' }], SIZE, { after: 2 }),
        ...c.sentences.map((text) => paragraph(paper, [{ text }], SIZE, { after: 2 })),
        gap(paper, 8, { weight: 0.4 }),
      ]),
    ),
    paragraph(
      paper,
      [
        {
          text: 'Each control has a sheet of its own, with every reading, how sure it is, and its seal.',
          tone: SOFT,
        },
      ],
      SIZE * 0.9,
      { before: 6 },
    ),
  ];
  flow(paper, blocks, 2, 0);
  return paper.bytes();
}
