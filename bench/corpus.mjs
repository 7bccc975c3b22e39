#!/usr/bin/env node
// npm run corpus: every file of the corpus through the reader of page and command line, as the table in docs/logger-files.md.
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from '../bin/lib/tools.mjs';

const { corpus } = await import(join(ROOT, 'packages/core/dist/trace/reading/testing.js'));
const { oddities } = await import(join(ROOT, 'packages/tables/dist/odd/testing.js'));
const { corpusTable, workbooks } = await import(join(ROOT, 'packages/tables/dist/testing.js'));
writeFileSync(
  join(ROOT, 'docs/logger-files.md'),
  await corpusTable([...corpus(), ...workbooks(), ...oddities()]),
);
