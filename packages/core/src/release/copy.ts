import { type Field } from '../fields/index.js';
import { isGroupReference, type PageGroup } from '../reach/index.js';
import { fieldNames, type Snapshot, type SnapshotSnippet } from '../snapshot/index.js';

/** What a snippet brings with it into another site, where that does not have it yet. */
export interface Baggage {
  /** Without the values of the site that they come from: these are its own. */
  readonly fields: readonly Field[];
  readonly pageGroups: readonly PageGroup[];
  /** Purposes of consent that the other site asks nobody about; they must be defined there by hand. */
  readonly missingConsent: readonly string[];
}

/** What is to be added to a site before it can have another site's snippet. */
export function baggageOf(snippet: SnapshotSnippet, from: Snapshot['site'], to: Snapshot['site']): Baggage {
  const names = new Set(fieldNames(snippet));
  const has = new Set(to.fields?.map(({ name }) => name));
  const groups = new Set(
    [...snippet.pages.include, ...snippet.pages.exclude]
      .filter(isGroupReference)
      .map((entry) => entry.slice(1)),
  );
  const hasGroup = new Set(to.pageGroups?.map(({ key }) => key));
  const purposes = new Set(to.consent?.categories.map(({ key }) => key));
  return {
    fields: (from.fields ?? []).filter(({ name }) => names.has(name) && !has.has(name)).map(withoutValues),
    pageGroups: (from.pageGroups ?? []).filter(({ key }) => groups.has(key) && !hasGroup.has(key)),
    missingConsent: (snippet.limits?.consent ?? []).filter((key) => !purposes.has(key)),
  };
}

function withoutValues({ name, type, label, example }: Field): Field {
  return { name, type, label, ...(example === undefined ? {} : { example }) };
}
