import { defineEntity, p, type InferEntity } from '@mikro-orm/core';
import type { ConsentRules, Field, PageGroup } from '@pragmatica/core';

export const SiteEntity = defineEntity({
  name: 'Site',
  tableName: 'site',
  properties: {
    id: p.integer().primary(),
    key: p.string().unique(),
    name: p.string(),
    timeZone: p.string(),
    /** Defined once for the reaches of all snippets. */
    pageGroups: p.json<readonly PageGroup[]>().default([]),
    consent: p.json<ConsentRules>().nullable(),
    fields: p.json<readonly Field[]>().default([]),
    updatedBy: p.string(),
    updatedAt: p.datetime(),
    version: p.integer().version(),
  },
});
export type Site = InferEntity<typeof SiteEntity>;
