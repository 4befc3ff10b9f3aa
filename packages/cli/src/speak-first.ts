import { speakAsSet } from '@pragmatica/contract/node';

// The first import: the language is set before any module that takes a text is loaded.
try {
  speakAsSet(new URL('../../../languages/', import.meta.url));
} catch (error) {
  process.stderr.write(`pragmatica: ${(error as Error).message}\n`);
  process.exit(2);
}
