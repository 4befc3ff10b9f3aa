import type { SnippetResource } from '@pragmatica/contract';
import { NAMED_PLACEMENTS, type Placement } from '@pragmatica/core';
import type { Command } from 'commander';
import { parsePart, parsePlacement, readCode } from '../../code-input.js';
import { withSite, type SiteOptions } from '../../context.js';
import { CliError } from '../../errors.js';

/** How placements are written on the command line. */
const PLACES = [...NAMED_PLACEMENTS, 'inside:#id', 'before:#id'];

export interface ContentOptions extends SiteOptions {
  readonly code?: string;
  readonly placement?: string;
  readonly part?: string[];
  readonly said?: string;
  readonly needs?: string[];
  readonly pages?: string[];
  readonly except?: string[];
  readonly allPages?: boolean;
  readonly provider?: string;
  readonly purpose?: string;
  readonly note?: string;
}

/** The options that say what a snippet is. */
export function withContent(command: Command): Command {
  return withSite(command)
    .option('--code <file>', 'the code of a snippet with one part; "-" reads standard input')
    .option('--placement <placement>', `where it goes: ${PLACES.join(', ')}`)
    .option(
      '--part <placement=file...>',
      'a part with its placement; repeat it for an install in several pieces',
    )
    .option('--said <sentence>', 'what the provider says of where the code goes; kept and compared')
    .option('--needs <snippet...>', 'snippets that must run before this one; "none" takes them away')
    .option('--pages <pattern...>', 'only on these pages, e.g. /booking "/news/*"')
    .option('--except <pattern...>', 'not on these pages')
    .option('--provider <name>', 'who the code is from')
    .option('--purpose <text>', 'what it is for')
    .option('--note <text>', 'anything worth knowing');
}

export type PartInput = { placement: Placement; code: string; statement?: string };

/** Parts from the options; undefined when none of them is about parts. */
export async function readParts(
  options: ContentOptions,
  old?: SnippetResource,
): Promise<PartInput[] | undefined> {
  if (options.part) {
    if (options.code !== undefined || options.placement !== undefined)
      throw new CliError('Use either --part, or --placement with --code.');
    if (options.said !== undefined)
      throw new CliError('--said is about one piece of code: use it with --code.');
    return Promise.all(options.part.map(parsePart));
  }
  const { said } = options;
  if (options.code === undefined && options.placement === undefined && said === undefined) return undefined;
  const only = old?.parts.length === 1 ? old.parts[0] : undefined;
  if (old && !only)
    throw new CliError(
      `"${old.key}" has ${old.parts.length} parts. Give all of them with --part PLACEMENT=FILE.`,
    );
  const placement = options.placement === undefined ? only?.placement : parsePlacement(options.placement);
  if (placement === undefined)
    throw new CliError(
      `Say where the code goes: --placement ${PLACES.slice(0, -1).join(', ')} or ${PLACES.at(-1)!}.`,
    );
  const code = options.code === undefined ? only?.code : await readCode(options.code);
  if (code === undefined) throw new CliError('Give the code with --code FILE, or "-" for standard input.');
  return [{ placement, code, ...(said === undefined ? {} : { statement: said }) }];
}
