import { speak } from './translation.js';

/**
 * The first import of each process and each thread: some texts are taken when their module is loaded, so the language
 * is set before any other is.
 */
try {
  speak(process.env['PRAGMATICA_LANGUAGE'] || 'en');
} catch (error) {
  console.error((error as Error).message);
  process.exit(1);
}
