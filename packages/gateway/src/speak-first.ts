import { speakAsSet } from '@pragmatica/contract/node';

// The first import of each process: the language is set before any module that takes a text is loaded. Pages go out
// whatever is wrong with it.
try {
  speakAsSet(new URL('../../../languages/', import.meta.url));
} catch (error) {
  console.error(`${(error as Error).message} The gateway says everything in English.`);
}
