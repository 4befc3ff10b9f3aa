import type { Field } from '../fields/index.js';
import type { ConsentRules, EnvironmentName } from '../reach/index.js';
import type { Snapshot } from '../snapshot/index.js';

type SiteOfSet = Snapshot['site'];

/** A change to what a set says of its site. */
export type SiteChange =
  /** What is not named stays as it is. */
  | {
      readonly kind: 'edit-site';
      readonly name?: string | undefined;
      readonly timeZone?: string | undefined;
      readonly pageGroups?: SiteOfSet['pageGroups'];
      /** Null where visitors are asked about nothing. */
      readonly consent?: ConsentRules | null | undefined;
      readonly fields?: readonly Field[] | undefined;
    }
  /** Gives a field another value, in one environment or in all that have none of their own; null takes it away. */
  | {
      readonly kind: 'set-field';
      readonly field: string;
      readonly environment?: EnvironmentName | undefined;
      readonly value: string | null;
    };

/** What a set says of its site with several changes applied, one after the other. A field that is not there stays so. */
export function changeSite(site: SiteOfSet, changes: readonly SiteChange[]): SiteOfSet {
  return changes.reduce<SiteOfSet>(changed, site);
}

function changed(site: SiteOfSet, change: SiteChange): SiteOfSet {
  if (change.kind === 'set-field')
    return {
      ...site,
      fields: (site.fields ?? []).map((field) =>
        field.name === change.field ? withValue(field, change) : field,
      ),
    };
  const { name, timeZone, pageGroups, consent, fields } = change;
  const { consent: asked, ...rest } = site;
  const next = consent === undefined ? asked : (consent ?? undefined);
  return {
    ...rest,
    ...(name === undefined ? {} : { name }),
    ...(timeZone === undefined ? {} : { timeZone }),
    ...(pageGroups === undefined ? {} : { pageGroups }),
    ...(next === undefined ? {} : { consent: next }),
    ...(fields === undefined ? {} : { fields }),
  };
}

function withValue(
  field: Field,
  { environment, value }: Extract<SiteChange, { readonly kind: 'set-field' }>,
): Field {
  const place = environment ?? 'value';
  const { [place]: _, ...rest } = field;
  return value === null ? rest : { ...rest, [place]: value };
}
