#!/usr/bin/env node
import { existsSync } from 'node:fs';
import { BUILT, start } from './start.js';

if (existsSync(BUILT)) start();
else {
  console.error('pragmatica: not built yet. Run "npm run build" (or "npm start") in the project first.');
  process.exitCode = 7;
}
