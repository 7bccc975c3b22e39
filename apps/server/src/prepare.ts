import 'reflect-metadata';
import { connect } from './database/connection.js';
import { migrate } from './database/migrations.js';
import { Organisation } from './database/models.js';
import { seedDemo } from './demo/seed.js';

// Migrations, then the demo data once: an organisation that exists is never touched.
const db = connect();
const applied = await migrate(db);
if (applied.length > 0) console.log(`Database schema: ${applied.join(', ')}.`);
if ((await Organisation.count()) === 0) {
  console.log('Loading the demo data …');
  await seedDemo(new Date(), db);
}
await db.close();
