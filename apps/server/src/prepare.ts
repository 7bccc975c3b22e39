import 'reflect-metadata';
import { connect } from './database/connection.js';
import { migrate } from './database/migrations.js';
import { Organisation } from './database/models.js';
import { seedDemo } from './demo/seed.js';
import { standaloneDue } from './jobs/standalone.js';

// Migrations; then the demo data once, unless it is not wanted: an organisation that exists is never touched.
const db = connect();
const applied = await migrate(db);
if (applied.length > 0) console.log(`Database schema: ${applied.join(', ')}.`);
const [firm] = await Organisation.findAll({ order: ['createdAt'], limit: 1 });
const empty = process.env['FIRM_NEEDLE_DEMO'] === '0';
if (!firm && !empty) {
  console.log('Loading the demo data …');
  await seedDemo(new Date(), db);
} else if (empty && firm?.demo)
  console.log(
    'The demo is in this data directory already. Set FIRM_NEEDLE_DATA to another directory to begin empty.',
  );
// What an older version of the program kept without its reasons.
const worked = await standaloneDue().refreshMissing();
if (worked > 0) console.log(`${worked} controls have their next dates worked out.`);
await db.close();
