import { fieldNames, type Snapshot } from '../snapshot/index.js';

/** What must be known of a site to give fields names there. */
export interface SiteNames {
  readonly site: Pick<Snapshot['site'], 'fields'>;
  /** Names of the fields that its code uses, or a recipe of its snippets means. */
  readonly usedFields: readonly string[];
}

/** The same of a set that is all there. */
export function siteNames({ site, snippets }: Pick<Snapshot, 'site' | 'snippets'>): SiteNames {
  return {
    site,
    usedFields: snippets.flatMap((snippet) => [
      ...fieldNames(snippet),
      ...Object.values(snippet.recipe?.fields ?? {}),
    ]),
  };
}
