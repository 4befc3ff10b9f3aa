import type { SiteResult } from '@pragmatica/contract';
import { changeSite, fieldValueProblem, type EnvironmentName } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { groupBy } from '../group-by.js';
import type { Site } from '../storage/rows.js';
import { snapshotSite } from '../storage/read-draft.js';
import { saveSite } from '../storage/sites.js';
import { changeOneOf } from './each-site.js';
import type { ActingWithin } from './use-case.js';
import { audit } from '../storage/trail.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

export interface FieldChange {
  readonly site: string;
  readonly name: string;
  /** Both when left out. */
  readonly environment?: EnvironmentName | undefined;
  /** Null takes it away. */
  readonly value: string | null;
}

/** Gives fields of sites new values: all changes of one site, or none of them, whatever becomes of the others. */
export async function changeFields(
  changes: readonly FieldChange[],
  acting: ActingWithin,
): Promise<SiteResult[]> {
  const results: SiteResult[] = [];
  for (const [site, ofSite] of groupBy(changes, (change) => change.site))
    results.push(await changeOne(site, ofSite, acting));
  return results;
}

async function changeOne(
  key: string,
  changes: readonly FieldChange[],
  acting: ActingWithin,
): Promise<SiteResult> {
  const { actor } = acting;
  return changeOneOf(acting, key, async (transaction, site) => {
    for (const change of changes) assertFits(site, change);
    const edits = changes.map(({ name, ...change }) => ({
      kind: 'set-field' as const,
      field: name,
      ...change,
    }));
    saveSite(site, changeSite(snapshotSite(site), edits), actor);
    const said = (): string => changes.map(changeWords).join(' ');
    audit(transaction, site, actor, 'site.fields', said);
    await transaction.flush();
    return said();
  });
}

/** @throws ServiceError 404, 422 */
function assertFits({ key, fields }: Site, { name, value }: FieldChange): void {
  const field = fields.find((candidate) => candidate.name === name);
  if (!field)
    throw new ServiceError('no-such-field', {
      ...{ site: key, field: name },
      known: fields.map((entry) => entry.name).join(', ') || SITE_TEXTS.noneYet,
    });
  const problem = value === null || value === '' ? undefined : fieldValueProblem(field.type, value);
  if (problem !== undefined)
    throw new ServiceError('field-cannot-be', { label: field.label, value: value!, problem });
}

function changeWords({ name, environment, value }: FieldChange): string {
  if (environment === undefined)
    return value === null ? say(SITE_TEXTS.tookValue, { name }) : say(SITE_TEXTS.gaveValue, { name, value });
  return value === null
    ? say(SITE_TEXTS.tookValueOn, { name, environment })
    : say(SITE_TEXTS.gaveValueOn, { name, environment, value });
}
