import { readFileSync } from 'node:fs';
import { fieldErrors, snapshot as snapshotSchema } from '@pragmatica/contract';
import type { Snapshot } from '@pragmatica/core';
import { CliError } from './errors.js';
import { COMMON } from './texts/common.js';
import { say } from './texts/say.js';

/** A snippet set from a file, as "pragmatica export" writes it. @throws CliError that names the field */
export function readSet(file: string): Snapshot {
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch {
    throw new CliError(say(COMMON.thereNoFileFile, { file }));
  }
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new CliError(say(COMMON.fileNotJson, { file, message: (error as Error).message }));
  }
  // What is known of the site is for the checks alone.
  if (typeof value === 'object' && value !== null && 'known' in value)
    value = Object.fromEntries(Object.entries(value).filter(([name]) => name !== 'known'));
  const parsed = snapshotSchema.safeParse(value);
  if (parsed.success) return parsed.data;
  const [first, ...more] = fieldErrors(parsed.error, snapshotSchema);
  throw new CliError(
    `"${file}", ${first!.pointer || '/'}: ${first!.detail}${more.length > 0 ? say(COMMON.countMore, { count: more.length }) : ''}`,
  );
}
