/** One line about a step of the set-up, on stderr, so that results on stdout stay clean. */
export function say(text) {
  process.stderr.write(`${text}\n`);
}

/** Says what begins, runs it, and says how long it took when that was long enough to be noticed. */
export async function step(text, work) {
  const start = Date.now();
  say(`  ${text} …`);
  const result = await work();
  const seconds = (Date.now() - start) / 1000;
  if (seconds > 2) say(`    done in ${seconds.toFixed(0)} s`);
  return result;
}
