import type { SnapshotPart, SnapshotSnippet } from '@pragmatica/core';
import { parse, stringify } from 'yaml';
import { CliError } from '../errors.js';
import { FOLDER } from '../texts/folder.js';
import { say } from '../texts/say.js';
import { placementText, readPlacement } from './placement-text.js';

const FENCE = '---';
const SEPARATOR = '<!-- next part -->';

/** A snippet as one HTML file: what is said of it in front, then its code, as it is. */
export function writeSnippet(snippet: SnapshotSnippet): string {
  const { name, purpose, provider, note, state, pages, limits, needs, recipe, parts } = snippet;
  const separator = freeSeparator(parts);
  const front = {
    name,
    ...(purpose === '' ? {} : { purpose }),
    ...(provider === '' ? {} : { provider }),
    ...(note === '' ? {} : { note }),
    ...(state === 'on' ? {} : { state }),
    ...(pages.include.length === 0 ? {} : { pages: pages.include }),
    ...(pages.exclude.length === 0 ? {} : { except: pages.exclude }),
    ...(limits ? { limits } : {}),
    ...(needs && needs.length > 0 ? { needs } : {}),
    ...(recipe ? { recipe } : {}),
    ...(separator === SEPARATOR ? {} : { separator }),
    parts: parts.map(({ placement, statement, per }) => ({
      at: placementText(placement),
      ...(statement ? { statement } : {}),
      ...(per && per !== 'load' ? { per } : {}),
    })),
  };
  const code = parts.map((part) => `${part.code}\n`).join(`${separator}\n`);
  return `${FENCE}\n${stringify(front, { lineWidth: 120 })}${FENCE}\n${code}`;
}

/** A line that stands in none of the codes. */
function freeSeparator(parts: readonly SnapshotPart[]): string {
  const lines = new Set(parts.flatMap(({ code }) => code.split('\n').map((line) => line.replace(/\r$/, ''))));
  let separator = SEPARATOR;
  for (let number = 2; lines.has(separator); number++) separator = `<!-- next part ${number} -->`;
  return separator;
}

type Front = Readonly<Record<string, unknown>>;

/**
 * A snippet from its file, to be validated with its set.
 *
 * @param key - the file's name
 * @throws CliError that names file and field
 */
export function readSnippet(key: string, text: string, file: string): Readonly<Record<string, unknown>> {
  const end = text.startsWith(`${FENCE}\n`) ? text.indexOf(`\n${FENCE}\n`, FENCE.length) : -1;
  if (end < 0) throw new CliError(say(FOLDER.noFront, { file }));
  const front = readFront(text.slice(FENCE.length + 1, end + 1), file);
  const separator = typeof front['separator'] === 'string' ? front['separator'] : SEPARATOR;
  const codes = readCodes(text.slice(end + `\n${FENCE}\n`.length), separator);
  const parts = Array.isArray(front['parts']) ? (front['parts'] as unknown[]) : [];
  if (parts.length !== codes.length)
    throw new CliError(
      say(FOLDER.partsDiffer, { file, named: parts.length, there: codes.length, separator }),
    );
  const { separator: _, pages, except, parts: __, ...rest } = front;
  return {
    ...rest,
    key,
    pages: { include: pages ?? [], exclude: except ?? [] },
    parts: parts.map((part, index) => ({ ...readPart(part, file), code: codes[index]! })),
  };
}

function readFront(text: string, file: string): Front {
  try {
    const front: unknown = parse(text);
    if (typeof front === 'object' && front !== null && !Array.isArray(front)) return front as Front;
  } catch (error) {
    const [problem] = (error as Error).message.split('\n');
    throw new CliError(say(FOLDER.badFront, { file, problem: problem! }));
  }
  throw new CliError(say(FOLDER.noFront, { file }));
}

function readCodes(body: string, separator: string): string[] {
  const codes: string[][] = [[]];
  for (const line of body.split('\n'))
    if (line.replace(/\r$/, '') === separator) codes.push([]);
    else codes.at(-1)!.push(line);
  return codes.map((lines, index) => {
    // The line break before a separator is the file's; so is one at its end.
    const isLast = index === codes.length - 1;
    return isLast && lines.at(-1) !== ''
      ? lines.join('\n')
      : lines.slice(0, isLast ? -1 : undefined).join('\n');
  });
}

function readPart(part: unknown, file: string): Front {
  const { at, ...rest } = (typeof part === 'object' && part !== null ? part : { at: part }) as Front;
  const placement = typeof at === 'string' ? readPlacement(at) : undefined;
  if (placement === undefined) throw new CliError(say(FOLDER.badPlacement, { file, at: String(at) }));
  return { ...rest, placement };
}
