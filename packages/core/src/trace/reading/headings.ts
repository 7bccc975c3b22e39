import { findUnit } from '../../quantity/index.js';

/** What a written pressure is counted from. */
export type PressureBasis = 'gauge' | 'absolute' | 'vacuum';

/** Words that are also a unit's spelling but in a heading mean something else. */
const NOT_UNITS = new Set(['at', 'p', 't', 'in', 'out', 'c', 'f', 'h', 'm', 'oz', '#', 'd']);
/** Spellings that only headings have. */
const SPELLINGS: readonly (readonly [RegExp, string])[] = [
  [/(^|[\s_([])(in\.?\s*w\.?\s*[cg]\.?|in\.?\s*h2o|inches? of water|"\s*w\.?c\.?)/i, 'inH2O'],
  [/mm\s*hg/i, 'mmHg'],
  [/(^|[\s_([])torr($|[\s_)\]])/i, 'mmHg'],
  [/cm\s*h2o/i, 'cmH2O'],
  [/mm\s*(h2o|w\.?c)/i, 'mmH2O'],
  [/in\.?\s*hg|inches? of mercury/i, 'inHg'],
  [/ozf?\s*\/\s*(in²|in2|sq\.?\s*in)/i, 'ozf/in2'],
  [/(^|[\s_([])microns?($|[\s_)\]])/i, 'micron'],
  [/kgf?\s*\/\s*cm(²|2)/i, 'kgf/cm2'],
  [/(^|[\s_([])(psi|pounds?)\s*[agd([]?/i, 'psi'],
  [/mbar/i, 'mbar'],
  [/(^|[\s_([])bar/i, 'bar'],
  [/kpa/i, 'kPa'],
  [/mpa/i, 'MPa'],
  [/hpa/i, 'hPa'],
];

export const wordsOf = (header: string): string[] =>
  header.split(/[\s_()[\]{},;:|]+/).filter((w) => w !== '');

/** The pressure unit that a column's heading names, or undefined. */
export function unitOfHeading(heading: string): string | undefined {
  for (const word of [heading.trim(), ...wordsOf(heading)].reverse()) {
    if (NOT_UNITS.has(word.toLowerCase())) continue;
    const unit = findUnit(word);
    if (unit?.dimension === 'pressure') return unit.id;
  }
  return SPELLINGS.find(([spelling]) => spelling.test(heading))?.[1];
}

/** The unit of flow that a heading names: `flow (L/min)`, `flow_gpm`. */
export const flowUnitOf = (heading: string): string | undefined =>
  wordsOf(heading)
    .map((w) => findUnit(w))
    .find((u) => u?.dimension === 'flow')?.id;

/** What a heading says its pressures are counted from; undefined where it does not. */
export function basisOf(heading: string): PressureBasis | undefined {
  // What is said to count from nothing does, also where it is called a vacuum.
  if (
    /\babs(olute|\.)?\b|_abs|abs_|[a-z]\(a\)|\b(psi|bar|kpa|mbar|hpa)a\b|_(psi|bar|kpa)a\b|(kpa|bar|psi|mbar)[\s_]a\b/i.test(
      heading,
    )
  )
    return 'absolute';
  // What a vacuum pump or its chamber stands at is no vacuum by its name.
  if (/vac(uum)?\b(?!\s*(pump|chamber))|_vac|vac_/i.test(heading)) return 'vacuum';
  // Microns and torr are counted from nothing.
  if (/(^|[\s_([])(torr|microns?|mtorr)($|[\s_)\]])/i.test(heading)) return 'absolute';
  if (/gauge|\bgage\b|\brel(ative)?\b|\(g\)|\b(psi|bar|kpa|mbar)g\b|_(psi|bar|kpa)g\b/i.test(heading))
    return 'gauge';
  return undefined;
}

export const TIME_WORDS =
  /^(t|time|elapsed|zeit|seconds?|secs?|timestamp|date|datetime|clock|uhrzeit|datum|epoch|minutes?|hours?)$/i;
export const INDEX_WORDS =
  /^(#|no\.?|nr\.?|num|number|rec|record|index|idx|sample|row|line|n|id|scan|count)$/i;

/** The air outside, and nothing that was worked on. */
export const isBarometer = (heading: string): boolean =>
  /baro|ambient|atmos|weather/i.test(heading) ||
  // It is a unit too.
  (/(^|[\s_])atm($|[\s_])/i.test(heading) && unitOfHeading(heading) !== 'atm');

/** How likely a column is what was measured: by what its heading says. */
export function likely(heading: string, unit: string | undefined): number {
  let score = unit === undefined ? 0 : 4;
  if (/press|druck|^p$|^p[_ (]|line|tank|system|outlet|supply|channel|^ch\b|probe/i.test(heading)) score += 2;
  if (/actual|measured|process|\bpv\b|reading|value|ist\b/i.test(heading)) score += 2;
  if (/set\s*-?_?point|target|\bsp\b|setting|soll|limit|alarm|min(imum)?\b|max(imum)?\b/i.test(heading))
    score -= 6;
  if (isBarometer(heading)) score -= 7;
  if (/temp|°|deg|batt|volt|flow|rpm|hum|rssi|level|speed|current|amps?\b/i.test(heading)) score -= 6;
  return score;
}
