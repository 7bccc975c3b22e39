export { sniff, delimiterOf, saysDelimiter, type Encoding } from './sniff.js';
export { unitOfHeading, basisOf, type PressureBasis } from './headings.js';
export { chooseColumns, choiceOf, guessColumns } from './columns.js';
export { headingOf } from './head.js';
export type { Assumption, ColumnChoice, ColumnMap, Said } from './map.js';
export { TableReader, type Lost, type TableDone, type TableProblem } from './reader.js';
export { TIME_UNITS, type DayOrder, type TimeForm, type TimeUnit } from './times.js';
export { formOf, parseAs, type NumberForm } from './numbers.js';
export { HEAD_ROWS, TableFeed, type FeedOptions, type TableRead } from './feed.js';
export {
  firstRows,
  MOST_SAMPLES,
  readBytes,
  type BytesOptions,
  type BytesRead,
  type Decoder,
  type TextTools,
} from './bytes.js';
