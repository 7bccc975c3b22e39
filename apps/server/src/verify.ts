import 'reflect-metadata';
import { verifyChain } from '@firm-needle/core/formats';
import { connect } from './database/connection.js';
import { Job, JobEventRow } from './database/models.js';

// Walks the chain of every job; exit 1 when one is not whole.
const db = connect();
let bad = 0;
const jobs = await Job.findAll({ order: ['openedAt'] });
for (const job of jobs) {
  const rows = await JobEventRow.findAll({ where: { jobId: job.id }, order: ['seq'] });
  const check = verifyChain(rows.map((r) => ({ seq: r.seq, text: r.text, hash: r.hash })));
  const lost = check.whole && (check.length !== job.seq || (job.seq > 0 && check.head !== job.head));
  if (check.whole && !lost) continue;
  bad++;
  console.log(`${job.id}: ${check.whole ? 'events are missing at the end.' : check.because}`);
}
console.log(`${jobs.length} jobs checked, ${bad} not whole.`);
await db.close();
process.exitCode = bad > 0 ? 1 : 0;
