/** One line about a step of the set-up, on stderr, so that results on stdout stay clean. */
export function say(text) {
  process.stderr.write(`${text}\n`);
}

/** So often a step that takes long says that it is under way; on a terminal every second, on one line. */
const SAID_EVERY_MS = 15_000;

/** Says what begins, runs it, says that it is under way, and how long it took when that was long enough to be noticed. */
export async function step(text, work) {
  const start = Date.now();
  const seconds = () => Math.round((Date.now() - start) / 1000);
  const isTerminal = process.stderr.isTTY === true;
  if (isTerminal) process.stderr.write(`  ${text} …`);
  else say(`  ${text} …`);
  const timer = setInterval(
    () => {
      if (isTerminal) process.stderr.write(`\r  ${text} … ${seconds()} s`);
      else say(`    under way for ${seconds()} s`);
    },
    isTerminal ? 1_000 : SAID_EVERY_MS,
  );
  try {
    return await work();
  } finally {
    clearInterval(timer);
    if (isTerminal) process.stderr.write(seconds() > 2 ? `\r  ${text} … ${seconds()} s\n` : '\n');
    else if (seconds() > 2) say(`    done in ${seconds()} s`);
  }
}
