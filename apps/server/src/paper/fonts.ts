import { createRequire } from 'node:module';
import { openSync, type Font } from 'fontkit';

const require = createRequire(import.meta.url);
const fontFile = (family: string, style: string, name: string): string =>
  require.resolve(`@expo-google-fonts/${family}/${style}/${name}_${style}.ttf`);

/** The styles that paper is written in, and what stands in where a style lacks a character. */
const FILES = {
  text: fontFile('atkinson-hyperlegible-next', '400Regular', 'AtkinsonHyperlegibleNext'),
  bold: fontFile('atkinson-hyperlegible-next', '700Bold', 'AtkinsonHyperlegibleNext'),
  figures: fontFile('ibm-plex-sans-condensed', '500Medium', 'IBMPlexSansCondensed'),
  'figures-bold': fontFile('ibm-plex-sans-condensed', '700Bold', 'IBMPlexSansCondensed'),
  hebrew: fontFile('noto-sans-hebrew', '400Regular', 'NotoSansHebrew'),
  arabic: fontFile('noto-sans-arabic', '400Regular', 'NotoSansArabic'),
  pictures: fontFile('noto-emoji', '400Regular', 'NotoEmoji'),
} as const;

export type FontName = keyof typeof FILES;
export type Style = 'text' | 'bold' | 'figures' | 'figures-bold';

const INSTEAD: readonly FontName[] = ['figures', 'hebrew', 'arabic', 'pictures'];
const opened = new Map<FontName, Font>();

export const fileOf = (name: FontName): string => FILES[name];

function fontOf(name: FontName): Font {
  const known = opened.get(name);
  if (known) return known;
  const font = openSync(FILES[name]) as Font;
  opened.set(name, font);
  return font;
}

const has = (name: FontName, code: number): boolean => fontOf(name).hasGlyphForCodePoint(code);

/** Marks that only steer how others are drawn: they take no glyph of their own. */
const STEERING = /\p{Cf}|\p{Variation_Selector}/gu;
const RIGHT_TO_LEFT = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufeff]/u;

/** A stretch of text in one font. */
export interface Run {
  readonly font: FontName;
  readonly text: string;
}

/**
 * A text in stretches of fonts that have its characters; words written from the right stay together, so that they are set as they are read.
 * What no font has is shown by its box.
 */
export function runsOf(text: string, style: Style): readonly Run[] {
  const runs: { font: FontName; text: string }[] = [];
  for (const char of text.normalize('NFC').replace(STEERING, '')) {
    const code = char.codePointAt(0) ?? 0;
    const last = runs.at(-1);
    // A space belongs to what it stands in.
    if (char === ' ' && last) {
      last.text += char;
      continue;
    }
    const font = has(style, code) ? style : (INSTEAD.find((f) => has(f, code)) ?? style);
    if (last?.font === font) last.text += char;
    else runs.push({ font, text: char });
  }
  return runs;
}

/** Whether a text is read from the right. */
export const fromTheRight = (text: string): boolean => RIGHT_TO_LEFT.test(text);
