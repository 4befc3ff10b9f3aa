import {
  EXAMPLE_NOW,
  exampleKnowledge,
  exampleSet,
  runChecks,
  type Finding,
  type Knowledge,
  type Snapshot,
} from '@pragmatica/core';
import type { CauseSite, CleanSite } from './cause.js';

/** A site's set, and what is known of it: its pages as a survey sees them with the set's parts in them. */
export function siteOf({ snippets, site }: CleanSite): { set: Snapshot; knowledge: Knowledge } {
  const { pages, headers, hosts, recipes, files, timeZone, now = EXAMPLE_NOW }: CauseSite = site ?? {};
  const made = exampleSet(snippets);
  const set = timeZone === undefined ? made : { ...made, site: { ...made.site, timeZone } };
  const known = exampleKnowledge(
    {
      ...(pages ? { pages } : {}),
      ...(headers ? { headers } : {}),
      ...(recipes ? { recipes } : {}),
      ...(files ? { files } : {}),
    },
    pages ? set : undefined,
  );
  return {
    set,
    knowledge: { ...known, now, ...(hosts ? { hosts } : {}) },
  };
}

export function findingsOfSite(site: CleanSite): Finding[] {
  const { set, knowledge } = siteOf(site);
  return runChecks(set, knowledge);
}
