import { pino } from 'pino';
import { Readers } from '../../packages/server/dist/reading/readers.js';

/*
 * Ends threads while they start, above all while their modules are linked, towards the end of it. It is a process of
 * its own, without what tests load their sources with, as what goes wrong there ends the process.
 */
const ROUNDS = 60;
/** A machine under load takes a second to start a thread: then there are fewer rounds. */
const BUDGET_MS = 20_000;
/** Multiples of it spread evenly over 0 to 1, however many there are. */
const GOLDEN_RATIO = (1 + Math.sqrt(5)) / 2;
const log = pino({ level: 'silent' });

async function startedFor(ms) {
  const readers = new Readers(log);
  await new Promise((resolve) => setTimeout(resolve, ms));
  await readers.close();
}

const begin = performance.now();
const first = new Readers(log);
await first.run('read', { code: '<script>a=1</script>', recipes: [], edition: '' });
await first.close();
const start = performance.now() - begin;
for (let round = 0; round < ROUNDS && performance.now() - begin < BUDGET_MS; round++)
  await startedFor(start * (0.6 + 0.4 * ((round * GOLDEN_RATIO) % 1)));
