import { ANCHOR_SIDES, SelectorError, readAnchor, type AnchorSide } from '@pragmatica/core';
import { readFileSync } from 'node:fs';
import { text } from 'node:stream/consumers';
import { NAMED_PLACEMENTS, nearestPlacement, type Placement } from './placements.js';
import { CliError } from './errors.js';
import { COMMON } from './texts/common.js';
import { say } from './texts/say.js';

/** Code from a file, or from standard input for `-`. @throws CliError */
export async function readCode(source: string): Promise<string> {
  if (source === '-') {
    if (process.stdin.isTTY) process.stderr.write(COMMON.pasteCodeThen);
    return (await text(process.stdin)).replace(/\n$/, '');
  }
  try {
    return readFileSync(source, 'utf8').replace(/\n$/, '');
  } catch (error) {
    const code = error instanceof Error && 'code' in error ? error.code : undefined;
    throw new CliError(
      code === 'ENOENT'
        ? say(COMMON.thereNoFile, { source })
        : say(COMMON.fileSourceCould, { source, code: String(code) }),
    );
  }
}

/** A placement as typed: a name, or a side and an element: `inside:#id`, `after:main > p`. @throws CliError */
export function parsePlacement(typed: string): Placement {
  if ((NAMED_PLACEMENTS as readonly string[]).includes(typed)) return typed as Placement;
  const side = ANCHOR_SIDES.find((one) => typed.startsWith(`${one}:`));
  if (side !== undefined) return typedAnchor(typed.slice(side.length + 1), side);
  const near = nearestPlacement(typed);
  const hint = near === undefined ? '' : say(COMMON.didYouMean, { near });
  throw new CliError(
    say(COMMON.typedNotPlacement, { typed, hint, namedPlacements: NAMED_PLACEMENTS.join(', ') }),
  );
}

function typedAnchor(element: string, side: AnchorSide): Placement {
  try {
    return readAnchor(element, side);
  } catch (error) {
    if (error instanceof SelectorError)
      throw new CliError(say(COMMON.notElement, { element, why: error.message }));
    throw error;
  }
}

/** `--part PLACEMENT=FILE`. @throws CliError */
export async function parsePart(typed: string): Promise<{ placement: Placement; code: string }> {
  // Selectors have signs of equality, too.
  const at = typed.lastIndexOf('=');
  if (at < 0) throw new CliError(say(COMMON.writePartPlacement, { typed }));
  return { placement: parsePlacement(typed.slice(0, at)), code: await readCode(typed.slice(at + 1)) };
}
