import type { Store } from '../storage/store.js';
import { countFindings, newFindings, unknownTo, type UnwordedFinding } from '@pragmatica/core';
import { findSite } from './site-lock.js';
import type { SiteTools } from './use-case.js';

export interface FindingQuery extends Wanted {
  /** The set that is looked at: `draft`, `live`, `staging` or a release's number. */
  readonly of: string;
  /** Only what was not found in this set. */
  readonly against?: string | undefined;
}

/** What the checks find in a set of a site, and what of it somebody has accepted. @throws ServiceError 404 */
export async function listFindings(
  { checks, sets }: SiteTools,
  store: Store,
  key: string,
  query: FindingQuery,
) {
  const site = await findSite(store, key);
  const { snapshot } = await sets.resolve(store, site, query.of);
  const { open, waived } = await checks.applyWaivers(store, site, snapshot);
  const known = await checks.knowledge(store, site);
  const before =
    query.against === undefined
      ? []
      : await checks.find((await sets.resolve(store, site, query.against)).snapshot, known);
  const wanted = <T extends UnwordedFinding>(findings: readonly T[]): T[] =>
    newFindings(findings, before).filter((finding) => isWanted(finding, query));
  return {
    items: wanted(open),
    waived: wanted(waived),
    unknown: unknownTo({ ...known, book: { newest: known.recipes } }),
    counts: { ...countFindings(open), waived: waived.length },
  };
}

interface Wanted {
  readonly severity?: string | undefined;
  readonly check?: string | undefined;
  readonly snippet?: string | undefined;
}

function isWanted(finding: UnwordedFinding, { severity, check, snippet }: Wanted): boolean {
  return (
    (severity === undefined || finding.severity === severity) &&
    (check === undefined || finding.check === check) &&
    (snippet === undefined || finding.subjects.some((subject) => subject.snippet === snippet))
  );
}
