import type { SnippetResource } from '@pragmatica/contract';
import { NAMED_PLACEMENTS, type Placement } from '@pragmatica/core';
import type { Command } from 'commander';
import { parsePart, parsePlacement, readCode } from '../../code-input.js';
import { withSite, type SiteOptions } from '../../context.js';
import { CliError } from '../../errors.js';
import { SNIPPET } from '../../texts/snippet.js';
import { say } from '../../texts/say.js';

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
    .option('--code <file>', SNIPPET.codeSnippetOne)
    .option('--placement <placement>', say(SNIPPET.whereGoesPlaces, { places: PLACES.join(', ') }))
    .option('--part <placement=file...>', SNIPPET.partPlacementRepeat)
    .option('--said <sentence>', SNIPPET.whatProviderSays)
    .option('--needs <snippet...>', SNIPPET.snippetsMustRun)
    .option('--pages <pattern...>', SNIPPET.onlyThesePages)
    .option('--except <pattern...>', SNIPPET.notThesePages)
    .option('--provider <name>', SNIPPET.whoCodeFrom)
    .option('--purpose <text>', SNIPPET.purposeHelp)
    .option('--note <text>', SNIPPET.anythingWorthKnowing);
}

export type PartInput = { placement: Placement; code: string; statement?: string };

/** Parts from the options; undefined when none of them is about parts. */
export async function readParts(
  options: ContentOptions,
  old?: SnippetResource,
): Promise<PartInput[] | undefined> {
  if (options.part) {
    if (options.code !== undefined || options.placement !== undefined)
      throw new CliError(SNIPPET.useEitherPart);
    if (options.said !== undefined) throw new CliError(SNIPPET.saidAboutOne);
    return Promise.all(options.part.map(parsePart));
  }
  const { said } = options;
  if (options.code === undefined && options.placement === undefined && said === undefined) return undefined;
  const only = old?.parts.length === 1 ? old.parts[0] : undefined;
  if (old && !only) throw new CliError(say(SNIPPET.keyHasCount, { key: old.key, count: old.parts.length }));
  const placement = options.placement === undefined ? only?.placement : parsePlacement(options.placement);
  if (placement === undefined)
    throw new CliError(
      say(SNIPPET.sayWhereItGoes, { places: PLACES.slice(0, -1).join(', '), last: PLACES.at(-1)! }),
    );
  const code = options.code === undefined ? only?.code : await readCode(options.code);
  if (code === undefined) throw new CliError(SNIPPET.giveCodeCode);
  return [{ placement, code, ...(said === undefined ? {} : { statement: said }) }];
}
