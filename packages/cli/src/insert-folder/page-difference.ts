import { structuredPatch } from 'diff';

/** Pages of thousands of changed lines are not compared line by line for longer than this. */
const PATIENCE_MS = 2_000;
const CONTEXT = 1;
const LONGEST_LINE = 200;

/**
 * How a page differs from what is there, line by line, as a unified difference without its head.
 *
 * @returns undefined where they differ in too much to be compared
 */
export function pageDifference(before: Uint8Array, after: Uint8Array): readonly string[] | undefined {
  // Byte by byte, whatever the encoding is: only lines are told apart.
  const [was, is] = [before, after].map((bytes) => Buffer.from(bytes).toString('utf8')) as [string, string];
  const patch = structuredPatch('', '', was, is, '', '', { context: CONTEXT, timeout: PATIENCE_MS });
  return patch?.hunks.flatMap(({ newStart, lines }) => [
    `@@ ${newStart} @@`,
    ...lines.map((line) => (line.length > LONGEST_LINE ? `${line.slice(0, LONGEST_LINE)}…` : line)),
  ]);
}
