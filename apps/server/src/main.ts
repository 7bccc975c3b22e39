import 'reflect-metadata';
import { fileURLToPath } from 'node:url';
import { createApp } from './app.js';

const app = await createApp({ web: fileURLToPath(new URL('../../web/dist', import.meta.url)) });
await app.listen(Number(process.env['PORT'] ?? 4180), process.env['HOST'] ?? '127.0.0.1');
