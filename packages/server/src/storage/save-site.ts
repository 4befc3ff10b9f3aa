import type { Snapshot } from '@pragmatica/core';
import type { Site } from './entities/index.js';

/**
 * Saves what core has worked out that a set says of its site; what is as it was is not written.
 *
 * @param by - the login of whoever changes it
 */
export function saveSite(
  site: Site,
  { name, timeZone, pageGroups = [], consent, fields = [] }: Snapshot['site'],
  by: string,
): void {
  Object.assign(site, {
    name,
    timeZone,
    pageGroups,
    consent: consent ?? null,
    fields,
    updatedBy: by,
    updatedAt: new Date(),
  });
}
