import 'reflect-metadata';
import { canonicalJson } from '@firm-needle/core/formats';
import { connect } from './database/connection.js';
import { Job, JobResult } from './database/models.js';
import { standaloneResults } from './jobs/standalone.js';

// Folds every job again. Open jobs, and signed ones whose sign-off did not come through, get their result; of those that are settled a
// difference is reported and nothing is changed. One bad job never stops the others.
const db = connect();
const results = standaloneResults(db);
let renewed = 0;
let differing = 0;
let failed = 0;
for (const job of await Job.findAll({ order: ['openedAt'] })) {
  try {
    const kept = await JobResult.findByPk(job.id);
    if (!kept?.settled) {
      await results.refresh(job.id);
      renewed++;
      continue;
    }
    const folded = await results.fold(job.id);
    if (folded && canonicalJson(folded.sheet.rows) !== canonicalJson(kept.result.rows)) {
      differing++;
      console.log(`${job.id}: today's code judges it otherwise; the signed result stands.`);
    }
  } catch (error) {
    failed++;
    console.log(`${job.id}: could not be folded: ${error instanceof Error ? error.message : String(error)}`);
  }
}
console.log(
  `${renewed} results renewed, ${differing} signed results would differ today, ${failed} could not be folded.`,
);
await db.close();
process.exitCode = failed > 0 ? 1 : 0;
