import type { TextTools } from '@firm-needle/core/trace';
import Papa from 'papaparse';

/** Text of bytes and rows of text, by what stands in every browser and by the usual splitter. */
export const TOOLS: TextTools = {
  decoder: (encoding) => new TextDecoder(encoding),
  split: (text, delimiter, whole) => {
    if (text === '') return { rows: [], end: 0 };
    const parser = new Papa.Parser({ delimiter, newline: '\n' });
    const { data, meta } = parser.parse(text, 0, !whole) as {
      readonly data: string[][];
      readonly meta: { readonly cursor: number };
    };
    return { rows: data, end: meta.cursor };
  },
};
