#!/usr/bin/env node
import { existsSync } from 'node:fs';

const built = new URL('../dist/worker-main.js', import.meta.url);
if (existsSync(built)) await import(built.href);
else {
  console.error('pragmatica-worker: not built yet. Run "npm run build" in the project first.');
  process.exitCode = 7;
}
