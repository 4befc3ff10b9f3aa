import { parse } from 'parse5';
import { pageHtml } from './survey-site.js';

// Parses so many generated pages when it is told to, and says how long that took: the bound of every survey.
const count = Number(process.argv[2]);
const pages = Array.from({ length: count }, (_, i) => Buffer.from(pageHtml(i, count)));
process.on('message', () => {
  const start = performance.now();
  for (const bytes of pages) parse(bytes.toString('utf8'), { sourceCodeLocationInfo: true });
  process.send!(performance.now() - start);
});
process.on('disconnect', () => process.exit(0));
process.send!('ready');
