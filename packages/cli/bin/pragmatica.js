#!/usr/bin/env node
import { existsSync } from 'node:fs';

const built = new URL('../dist/pragmatica.js', import.meta.url);
if (existsSync(built)) await import(built.href);
else {
  console.error('pragmatica: not built yet. Run "npm run build" (or "npm start") in the project first.');
  process.exitCode = 7;
}
