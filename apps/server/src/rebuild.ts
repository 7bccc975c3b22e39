import 'reflect-metadata';
import { canonicalJson } from '@firm-needle/core/formats';
import { connect } from './database/connection.js';
import { Job, JobResult } from './database/models.js';
import { standaloneResults } from './jobs/standalone.js';

// Folds every job again. Open jobs get the new result; for signed ones a difference is reported and nothing is changed.
const db = connect();
const results = standaloneResults();
let renewed = 0;
let differing = 0;
for (const job of await Job.findAll()) {
  const kept = await JobResult.findByPk(job.id);
  if (!kept?.signedAt) {
    await results.refresh(job.id);
    renewed++;
    continue;
  }
  const folded = await results.fold(job.id);
  if (folded && canonicalJson(folded.sheet.rows) !== canonicalJson(kept.result.rows)) {
    differing++;
    console.log(`${job.id}: today's code judges it otherwise; the signed result stands.`);
  }
}
console.log(`${renewed} open results renewed, ${differing} signed results would differ today.`);
await db.close();
