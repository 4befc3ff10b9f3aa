import type { SnippetResource } from '@pragmatica/contract';
import { ANCHOR_SIDES, NAMED_PLACEMENTS, PART_PERS, type PartPer, type Placement } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { parsePart, parsePlacement, readCode } from '../../code-input.js';
import { withSite, type SiteOptions } from '../../context.js';
import { CliError } from '../../errors.js';
import { SNIPPET } from '../../texts/snippet.js';
import { say } from '../../texts/say.js';

/** How placements are written on the command line. */
const PLACES = [...NAMED_PLACEMENTS, ...ANCHOR_SIDES.map((side) => `${side}:ELEMENT`)];

export interface ContentOptions extends SiteOptions {
  readonly code?: string;
  readonly placement?: string;
  readonly part?: string[];
  readonly said?: string;
  readonly per?: PartPer;
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
    .addOption(new Option('--per <what>', SNIPPET.perWhat).choices(PART_PERS))
    .option('--needs <snippet...>', SNIPPET.snippetsMustRun)
    .option('--pages <pattern...>', SNIPPET.onlyThesePages)
    .option('--except <pattern...>', SNIPPET.notThesePages)
    .option('--provider <name>', SNIPPET.whoCodeFrom)
    .option('--purpose <text>', SNIPPET.purposeHelp)
    .option('--note <text>', SNIPPET.anythingWorthKnowing);
}

export type PartInput = { placement: Placement; code: string; statement?: string; per?: PartPer };

/** Parts from the options; undefined when none of them is about parts. */
export async function readParts(
  options: ContentOptions,
  old?: SnippetResource,
): Promise<PartInput[] | undefined> {
  if (options.part) {
    if (options.code !== undefined || options.placement !== undefined)
      throw new CliError(SNIPPET.useEitherPart);
    if (options.said !== undefined) throw new CliError(SNIPPET.saidAboutOne);
    const parts = await Promise.all(options.part.map(parsePart));
    return parts.map((part) => ({ ...part, ...perOf(options) }));
  }
  const { said } = options;
  const isAboutParts = [options.code, options.placement, said, options.per].some((one) => one !== undefined);
  if (!isAboutParts) return undefined;
  // When it runs is said of all of them at once.
  if (
    old &&
    old.parts.length > 1 &&
    [options.code, options.placement, said].every((one) => one === undefined)
  )
    return old.parts.map(({ placement, code }) => ({ placement, code, ...perOf(options) }));
  const only = old?.parts.length === 1 ? old.parts[0] : undefined;
  if (old && !only) throw new CliError(say(SNIPPET.keyHasCount, { key: old.key, count: old.parts.length }));
  const placement = options.placement === undefined ? only?.placement : parsePlacement(options.placement);
  if (placement === undefined)
    throw new CliError(
      say(SNIPPET.sayWhereItGoes, { places: PLACES.slice(0, -1).join(', '), last: PLACES.at(-1)! }),
    );
  const code = options.code === undefined ? only?.code : await readCode(options.code);
  if (code === undefined) throw new CliError(SNIPPET.giveCodeCode);
  return [{ placement, code, ...(said === undefined ? {} : { statement: said }), ...perOf(options) }];
}

function perOf({ per }: ContentOptions): { per?: PartPer } {
  return per === undefined ? {} : { per };
}
