import type { SnippetResource } from '@pragmatica/contract';
import { containmentProblem, placementWords, reachWords, type Limits } from '@pragmatica/core';
import type { SiteOptions } from '../../context.js';
import { colour, note, print, printJson } from '../../output.js';
import { SNIPPET } from '../../texts/snippet.js';
import { say } from '../../texts/say.js';

/** Says what was done, and what would keep it from being published. */
export function report(data: SnippetResource, options: SiteOptions, text: string): void {
  if (options.json) {
    printJson(data);
    return;
  }
  print(text);
  for (const part of data.parts) {
    const found = containmentProblem(part.code, part.placement);
    if (found) note(colour.red(say(SNIPPET.cannotPublishedLike, { message: found.message })));
  }
}

export function placesWords(data: SnippetResource): string {
  return data.parts.map((part) => placementWords(part.placement)).join(' and ');
}

/** On which page loads it runs; groups and purposes by their keys, as commands name them. */
export function reachText({ pages, limits }: SnippetResource): string {
  return reachWords({ ...(limits as Limits), pages }, { timeZone: 'UTC' });
}

export function stateWords(state: SnippetResource['state']): string {
  return { on: colour.green('on'), off: colour.yellow('off'), archived: colour.dim('archived') }[state];
}
