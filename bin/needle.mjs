#!/usr/bin/env node
// npm run --silent needle -- COMMAND …: the core from a terminal, JSON out. Builds itself when stale; says so on standard error.
import { join } from 'node:path';
import { buildCommandLine, checkNode, installModules, ROOT } from './lib/tools.mjs';

checkNode();
installModules();
buildCommandLine();
await import(join(ROOT, 'packages/cli/dist/main.js'));
