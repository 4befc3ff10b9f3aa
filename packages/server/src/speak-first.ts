import { speakAsSet } from '@pragmatica/contract/node';

// The first import of each process and each thread: the language is set before any module that takes a text is loaded.
try {
  speakAsSet(new URL('../../../languages/', import.meta.url));
} catch (error) {
  console.error((error as Error).message);
  process.exit(1);
}
