import { earlySaid, choicesSaid, outcomeSaid, sheetOf, type Family, type Sheet } from '../family/index.js';
import { fingerprint, type ChainCheck } from '../formats/index.js';
import type { DueReason } from '../history/index.js';
import { stepsOf, type JobView } from '../procedure/index.js';
import { show, symbolOf } from '../quantity/index.js';
import type { VerdictWord } from '../verdict/index.js';
import { inUnit } from './inUnit.js';
import { summaryOf } from './sentences.js';
import { shownIn, tableOf, type RecordTable } from './table.js';

/** A line of a section. */
export interface RecordItem {
  readonly mark?: VerdictWord;
  readonly strong?: string;
  readonly text: string;
  /** Said under the breath. */
  readonly soft?: true;
  /** What a movement did, `58.0 → 62.5`. */
  readonly effects?: readonly string[];
  /** The setting that a verdict is about. */
  readonly setting?: string;
}

export type SectionKey =
  | 'found'
  | 'left'
  | 'adjusted'
  | 'noticed'
  | 'seen'
  | 'gauges'
  | 'plate'
  | 'beside'
  | 'replanned'
  | 'irregular';

export interface RecordSection {
  readonly key: SectionKey;
  readonly title: string;
  readonly items: readonly RecordItem[];
}

/** A photo as the record names it: its bytes are had by its hash. */
export interface RecordPhoto {
  readonly hash: string;
  readonly text: string;
  readonly width: number;
  readonly height: number;
}

/** A caution on the record itself. */
export interface RecordDoubt {
  readonly title: string;
  readonly text: string;
  readonly items: readonly string[];
}

/** The whole record of a job in the order in which it is read: for a screen, a PDF, a page behind a link. */
export interface RecordDoc {
  readonly organisation: string;
  readonly title: string;
  readonly place: string;
  readonly about: string;
  readonly practice: boolean;
  readonly outcome: string;
  /** ISO, when it was signed, or begun. */
  readonly at: string;
  readonly by: string;
  readonly next?: DueReason;
  readonly summary: readonly [found: string, done: string, next: string];
  readonly doubts: readonly RecordDoubt[];
  readonly table: RecordTable;
  readonly sections: readonly RecordSection[];
  readonly photos: readonly RecordPhoto[];
  readonly rule: string;
  readonly seal: string;
  readonly aid: string;
}

/** What is known of a job besides its own log. */
export interface RecordAround {
  readonly organisation: string;
  readonly seal?: (ChainCheck & { readonly fingerprint?: string }) | undefined;
  /** What later checks of its gauges cast doubt on. */
  readonly flags?: readonly string[];
  /** The result as the server froze it at the sign-off; never what the signing device says of itself. */
  readonly frozen?: Sheet | undefined;
  /** Why the outcome that was signed is not what the log proves. */
  readonly objections?: readonly string[];
  /** When it is to be looked at again, and why; of the newest sheet of a control alone. */
  readonly next?: DueReason | undefined;
  /** The customer's unit of pressure; without it as it was worked. */
  readonly unit?: string | undefined;
  /** A day in words. */
  day(iso: string): string;
  /** A time of day in words. */
  time(iso: string): string;
}

const AID = 'An aid to a competent person. The maker’s manual, local codes and licensed practice come first.';

/** The sheet that a record shows: as it was frozen, in the unit that is asked for. */
export const sheetShown = (
  family: Family,
  job: JobView,
  { frozen, unit }: Pick<RecordAround, 'frozen' | 'unit'>,
): Sheet => inUnit(frozen ?? sheetOf(family, job), unit, job);

/** Everything that stands on the record of a job, in words. */
export function documentOf(family: Family, job: JobView, around: RecordAround): RecordDoc {
  const { flags = [], objections = [], next } = around;
  const sheet = sheetShown(family, job, around);
  const { started, state } = job;
  const { signed } = state;
  const outcome = signed ? outcomeSaid(family, signed.body.outcome, sheet.rows) : undefined;
  return {
    organisation: around.organisation,
    title: started.control.name,
    place: `${started.site.name}, ${started.site.altitude_m} m · ${started.control.equipment}`,
    about: choicesSaid(family, job.plan, started.occasion).join(' · '),
    practice: started.mode === 'practice',
    outcome:
      outcome === undefined ? 'Not signed yet' : `${outcome}${objections.length > 0 ? ', not proved' : ''}`,
    at: signed?.wall ?? state.started?.wall ?? '',
    by: signed?.body.by ?? started.technician,
    ...(next ? { next } : {}),
    summary: summaryOf(sheet, {
      outcome,
      ...(state.leaving ? { leaving: state.leaving.body.reason } : {}),
      unproved: objections.length > 0,
      ...(next ? { next } : {}),
      day: (iso) => around.day(iso),
    }),
    doubts: [
      ...flags.map((text) => ({
        title: 'Gauge in doubt since.',
        text: `${text} What was signed stands as it was signed.`,
        items: [],
      })),
      ...(objections.length > 0
        ? [{ title: 'Signed, and not proved.', text: 'It moves no date.', items: objections }]
        : []),
    ],
    table: tableOf(sheet),
    sections: [
      reasonsOf(sheet, 'found'),
      reasonsOf(sheet, 'left'),
      adjustedIn(sheet),
      noticedIn(sheet, job),
      seenIn(family, job, around),
      gaugesOf(sheet, job),
      plateOf(family, job, around),
      section(
        'beside',
        'Beside it',
        (sheet.links ?? []).map((l) => ({ text: `${l.title}: ${l.text}.` })),
      ),
      section(
        'replanned',
        'Plan changed in the job',
        (sheet.replans ?? []).map((r) => ({ text: `${r.changes.join('; ')}. Because: ${r.reason}` })),
      ),
      irregularIn(family, job),
    ].filter((s) => s.items.length > 0),
    photos: state.photos.map(({ body: { hash, text, width, height } }) => ({ hash, text, width, height })),
    rule: `${sheet.rule} ${sheet.because}`,
    seal: `${sealSaid(around.seal)}${state.countersigned ? ` Countersigned by ${state.countersigned.body.by}.` : ''}`,
    aid: AID,
  };
}

const section = (key: SectionKey, title: string, items: readonly RecordItem[]): RecordSection => ({
  key,
  title,
  items,
});

/** Verdicts with their reasons, for one side of the job. */
export const reasonsOf = (sheet: Sheet, side: 'found' | 'left'): RecordSection =>
  section(
    side,
    side === 'found' ? 'As found' : 'As left',
    sheet.rows.flatMap((r): RecordItem[] => {
      const verdict = r[side]?.verdict;
      return verdict
        ? [{ mark: verdict.word, strong: r.title, text: verdict.because, setting: r.setting }]
        : [];
    }),
  );

/** What was turned, what each turn did, and the net of all. */
export const adjustedIn = (sheet: Sheet): RecordSection =>
  section('adjusted', 'Adjusted', [
    ...sheet.turns.map((t): RecordItem => ({
      text: `${t.text}${!t.advised && !t.sought ? ' (own amount)' : ''}`,
      effects: t.effects.map(
        (e) => `${shownIn(sheet, e.setting, e.before)} → ${shownIn(sheet, e.setting, e.after)}`,
      ),
    })),
    ...(sheet.turns.length === 0 ? [{ text: 'Nothing was adjusted.', soft: true as const }] : []),
    ...sheet.net.map((n) => ({ text: `${n.adjuster}, net since found: ${n.text}`, soft: true as const })),
  ]);

function noticedIn(sheet: Sheet, { state }: JobView): RecordSection {
  const items: readonly RecordItem[] = [
    ...sheet.findings.map((f) => ({ strong: f.message, text: f.remedy ?? '' })),
    ...(state.leaving ? [{ text: state.leaving.body.reason }] : []),
    ...state.notes.map((n) => ({ text: n.body.text })),
  ];
  return section(
    'noticed',
    'What was noticed',
    items.length > 0 ? items : [{ text: 'Nothing beyond the readings.', soft: true }],
  );
}

/** What was looked at and what was seen, and for how long something was out of service. */
function seenIn(family: Family, job: JobView, { time }: RecordAround): RecordSection {
  const steps = stepsOf(family, job.plan);
  const looks = job.state.observations.flatMap(({ body }): RecordItem[] => {
    const step = steps.get(body.at.key);
    const choices =
      step?.kind === 'observe' ? step.choices : step?.kind === 'read' ? (step.instead ?? []) : [];
    const choice = choices.find((c) => c.code === body.answer);
    // What was decided is told by what was done; an answer that says no more than its question is none to read.
    const told = choice && !(step?.kind === 'observe' && step.decides) && choice.title !== step?.title;
    return step && told ? [{ strong: step.title, text: choice.title }] : [];
  });
  const times = [...job.state.taken.values()]
    .flatMap((passes) => [...passes.values()].flat())
    .sort((a, b) => a.order - b.order)
    .flatMap(({ body, wall }) =>
      Object.entries(body.sets ?? {}).flatMap(([fact, value]): RecordItem[] => {
        const def = family.facts[fact]?.[value];
        return def?.timed ? [{ strong: def.title, text: time(wall) }] : [];
      }),
    );
  return section('seen', 'Looked at', [...times, ...looks]);
}

function gaugesOf(sheet: Sheet, { started }: JobView): RecordSection {
  return section('gauges', sheet.gauges.length > 0 ? 'Gauges' : 'Seen on', [
    ...sheet.gauges.map((g) => ({
      strong: g.label,
      text: [
        `${g.text}.`,
        g.zero && `Zero ${g.zero}`,
        !g.fit && 'Readings in doubt.',
        g.reason && `In doubt, used because: ${g.reason}`,
        g.changed && `Put in its place because: ${g.changed}`,
      ]
        .filter(Boolean)
        .join(' '),
    })),
    ...(started.source ? [{ text: `Readings from: ${started.source}.`, soft: true as const }] : []),
  ]);
}

/** A figure of a plate, as short as it can be said to a hundredth, with its unit. */
export const inWords = (value: number, unit: string): string =>
  `${show(value, { unit, step: 0.01 }).replace(/\.?0+$/, (zeros) => (zeros.includes('.') ? '' : zeros))} ${symbolOf(unit)}`.trim();

/** The rating plate that the work was planned by, and what the technician is licensed to touch. */
function plateOf(family: Family, job: JobView, { unit }: RecordAround): RecordSection {
  const plate = family.plate.flatMap((p): string[] => {
    const typed = job.plan.plate[p.id];
    if (!typed) return [];
    const shown = unit !== undefined && p.dimension === 'pressure' && typed.unit !== unit ? unit : undefined;
    const own = inWords(typed.value, typed.unit);
    return [`${p.title} ${shown ? `${own} (${inWords(typed.value, shown)})` : own}`];
  });
  const held = family.permits.filter((p) => job.permits.includes(p.id)).map((p) => p.title);
  return section('plate', 'Rating plate and permits', [
    ...(plate.length > 0 ? [{ text: plate.join(' · ') }] : []),
    ...(held.length > 0 ? [{ strong: 'Permits of the technician', text: `${held.join('; ')}.` }] : []),
  ]);
}

/** What was early, skipped, corrected, or set aside. */
function irregularIn(family: Family, job: JobView): RecordSection {
  const { state } = job;
  const steps = stepsOf(family, job.plan);
  return section('irregular', 'Early, skipped and corrected', [
    ...earlySaid(family, job).map((text) => ({ text })),
    ...state.skips.map(({ body }) => ({
      text: `Skipped ${(steps.get(body.at.key)?.title ?? body.at.key).toLowerCase()}: ${body.reason}`,
    })),
    ...state.corrections.map(({ original, by }) => {
      const value = 'value' in original.body && original.body.value ? ` ${original.body.value.text}` : '';
      return {
        text: `${by.body.body ? 'Corrected' : 'Withdrawn'}: ${original.body.kind}${value} (${by.body.reason})`,
      };
    }),
    ...state.aside.map((a) => ({ text: `Set aside: ${a.event.body.kind}. ${a.reason}` })),
  ]);
}

function sealSaid(seal: RecordAround['seal']): string {
  if (!seal) return 'The seal is not checked while the server cannot be reached.';
  return seal.whole
    ? `Record whole: ${seal.length} entries, seal ${seal.fingerprint || fingerprint(seal.head)}.`
    : `Record broken at entry ${seal.at}: ${seal.because}`;
}
