import { speakAsSet } from '@pragmatica/contract/node';
import { readConfig } from './config.js';

// The first import: the language is set before any module that takes a text is loaded.
try {
  speakAsSet(new URL('../../../languages/', import.meta.url), readConfig().language);
} catch (error) {
  process.stderr.write(`pragmatica: ${(error as Error).message}\n`);
  process.exit(2);
}
