import { spawn, type ChildProcess } from 'node:child_process';

/** Longer than a command takes to print what it has at once; what comes later is watched, not paged. */
const AT_ONCE_MS = 150;

/** What was printed and does not fill the terminal yet; undefined as soon as it is known where all of it goes. */
let held: string[] | undefined = wantedPager() === undefined ? undefined : [];
let pager: ChildProcess | undefined;
let timer: NodeJS.Timeout | undefined;

/**
 * Writes to standard output. Where that is a terminal and `PAGER` is set (POSIX, 8.3), a result with more lines than
 * the terminal goes through the pager.
 */
export function writeOut(text: string): void {
  if (held === undefined) {
    (pager?.stdin ?? process.stdout).write(text);
    return;
  }
  held.push(text);
  timer ??= setTimeout(release, AT_ONCE_MS);
  if (held.join('').split('\n').length > process.stdout.rows) startPager(wantedPager()!);
}

/** Says what is still held, and waits until whoever reads has left the pager. */
export async function endPaging(): Promise<void> {
  release();
  if (pager === undefined) return;
  const left = new Promise((resolve) => pager!.once('close', resolve));
  pager.stdin!.end();
  await left;
}

function wantedPager(): string | undefined {
  const wanted = process.env['PAGER']?.trim() ?? '';
  return process.stdout.isTTY && wanted !== '' && wanted !== 'cat' ? wanted : undefined;
}

function release(): void {
  clearTimeout(timer);
  const text = held?.join('') ?? '';
  held = undefined;
  if (text !== '') writeOut(text);
}

function startPager(command: string): void {
  // Colours are shown, and what fits after all is not held up: as other tools ask of less.
  const env = { LESS: 'FRX', ...process.env };
  pager = spawn(command, { shell: true, stdio: ['pipe', 'inherit', 'inherit'], env });
  // Whoever leaves the pager has seen enough.
  pager.stdin!.on('error', () => undefined);
  // A pager that is not there: the shell has said so, and the result is not lost.
  const text = held!.join('');
  pager.on('exit', (status) => {
    if (status === 127) process.stdout.write(text);
  });
  release();
}
