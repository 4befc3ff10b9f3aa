import { readFileSync } from 'node:fs';
import { text } from 'node:stream/consumers';
import { NAMED_PLACEMENTS, nearestPlacement, type Placement } from './placements.js';
import { CliError } from './errors.js';

/** Code from a file, or from standard input for `-`. @throws CliError */
export async function readCode(source: string): Promise<string> {
  if (source === '-') {
    if (process.stdin.isTTY)
      process.stderr.write('Paste the code, then press Ctrl-D on a line of its own:\n');
    return (await text(process.stdin)).replace(/\n$/, '');
  }
  try {
    return readFileSync(source, 'utf8').replace(/\n$/, '');
  } catch (error) {
    const code = error instanceof Error && 'code' in error ? error.code : undefined;
    throw new CliError(
      code === 'ENOENT'
        ? `There is no file "${source}".`
        : `The file "${source}" could not be read (${String(code)}).`,
    );
  }
}

/** A placement as typed: a name, or `inside:#id`, `before:#id`. @throws CliError */
export function parsePlacement(typed: string): Placement {
  if ((NAMED_PLACEMENTS as readonly string[]).includes(typed)) return typed as Placement;
  const anchor = /^(inside|before):#?(.+)$/.exec(typed);
  if (anchor) return { anchor: anchor[2]!, side: anchor[1] as 'inside' | 'before' };
  const near = nearestPlacement(typed);
  const hint = near === undefined ? '' : ` Did you mean "${near}"?`;
  throw new CliError(
    `"${typed}" is not a placement.${hint} Use ${NAMED_PLACEMENTS.join(', ')}, inside:#an-id or before:#an-id.`,
  );
}

/** `--part PLACEMENT=FILE`. @throws CliError */
export async function parsePart(typed: string): Promise<{ placement: Placement; code: string }> {
  const at = typed.indexOf('=');
  if (at < 0)
    throw new CliError(`Write a part as PLACEMENT=FILE, like body-end=chat.html; this was "${typed}".`);
  return { placement: parsePlacement(typed.slice(0, at)), code: await readCode(typed.slice(at + 1)) };
}
