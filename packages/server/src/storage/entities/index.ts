import { defineEntity, p, type InferEntity } from '@mikro-orm/core';
import { IntegerList } from './integer-list.js';
import * as people from './people.js';
import { SiteEntity } from './site.js';
import { ENVIRONMENTS, TRANSFERS, type ForcedRelease, type SiteResource } from '@pragmatica/contract';
import { DELIVERY_KEYS, PART_PERS } from '@pragmatica/core';
import type { FrozenSet, Limits, Placement, Recipe, RecipeLink, SnapshotSnippet } from '@pragmatica/core';

export * from './people.js';
export * from './site.js';

export const HostEntity = defineEntity({
  name: 'Host',
  tableName: 'host',
  properties: {
    id: p.integer().primary(),
    site: () => p.manyToOne(SiteEntity).deleteRule('cascade').index(),
    host: p.string().unique(),
    environment: p.enum([...ENVIRONMENTS]),
    origin: p.text(),
    address: p.text().nullable(),
    /** How pages come from the origin. */
    transfer: p.enum([...TRANSFERS]).default('auto'),
    /** The way in which its pages get their parts. */
    delivery: p.enum([...DELIVERY_KEYS]).default('gateway'),
    position: p.integer(),
  },
});
export type Host = InferEntity<typeof HostEntity>;

export const SnippetEntity = defineEntity({
  name: 'Snippet',
  tableName: 'snippet',
  uniques: [{ properties: ['site', 'key'] }],
  indexes: [
    {
      name: 'snippet_recipe_index',
      expression: `create index "snippet_recipe_index" on "snippet" (("recipe" ->> 'key'), (("recipe" ->> 'version')::int)) where "recipe" is not null`,
    },
  ],
  properties: {
    id: p.integer().primary(),
    site: () => p.manyToOne(SiteEntity).deleteRule('cascade'),
    key: p.string(),
    name: p.string(),
    purpose: p.text(),
    provider: p.text(),
    note: p.text(),
    state: p.enum(['on', 'off', 'archived']),
    /** Since when, and by whom, it is off or in the archive. */
    stateAt: p.datetime().nullable(),
    stateBy: p.string().nullable(),
    include: p.json<string[]>(),
    exclude: p.json<string[]>(),
    /** What bounds its reach beside the pages. */
    limits: p.json<Limits>().default('{}'),
    /** Keys of the snippets that must run before. */
    needs: p.json<string[]>().default([]),
    /** The version of a recipe that it follows. */
    recipe: p.json<RecipeLink>().nullable(),
    updatedBy: p.string(),
    updatedAt: p.datetime(),
    version: p.integer().version(),
  },
});
export type Snippet = InferEntity<typeof SnippetEntity>;

export const PartEntity = defineEntity({
  name: 'Part',
  tableName: 'part',
  properties: {
    id: p.integer().primary(),
    snippet: () => p.manyToOne(SnippetEntity).deleteRule('cascade').index(),
    position: p.integer(),
    placement: p.json<Placement>(),
    rank: p.integer(),
    code: p.text(),
    /** What the provider says of where it goes. */
    statement: p.text().default(''),
    /** When it runs anew. */
    per: p.enum([...PART_PERS]).default('load'),
    /** Names of the fields in its code. */
    fieldNames: p.json<readonly string[]>().default([]),
  },
});
export type Part = InferEntity<typeof PartEntity>;

/**
 * What releases are made of, each once: a snippet as it is frozen, or what a set says of its site. A trigger of the
 * database refuses to change or delete one.
 */
export const ReleaseContentEntity = defineEntity({
  name: 'ReleaseContent',
  tableName: 'release_content',
  properties: {
    id: p.integer().primary(),
    /** SHA-256 of the body's canonical JSON. */
    digest: p.string().length(64).columnType('char(64)').unique(),
    /** Of the snippet; null for what is said of a site. */
    key: p.string().nullable().index(),
    body: p.json<SnapshotSnippet | FrozenSet['header']>(),
  },
});

/** An immutable copy of a draft. A trigger of the database refuses to change or delete one. */
export const ReleaseEntity = defineEntity({
  name: 'Release',
  tableName: 'release',
  uniques: [{ properties: ['site', 'number'] }, { properties: ['site', 'id'] }],
  properties: {
    id: p.integer().primary(),
    site: () => p.manyToOne(SiteEntity),
    number: p.integer(),
    message: p.text(),
    author: p.string(),
    createdAt: p.datetime(),
    digest: p.string(),
    header: () => p.manyToOne(ReleaseContentEntity).index(),
    /** Ids of the frozen snippets, in order. */
    snippets: p.type(IntegerList),
    snippetsOn: p.integer(),
    /** Why it was published with errors, and with which. */
    forced: p.json<ForcedRelease>().nullable(),
  },
});
export type Release = InferEntity<typeof ReleaseEntity>;

/** The release that an environment of a site serves. */
export const PointerEntity = defineEntity({
  name: 'Pointer',
  tableName: 'pointer',
  uniques: [{ properties: ['site', 'environment'] }],
  properties: {
    id: p.integer().primary(),
    site: () => p.manyToOne(SiteEntity).deleteRule('cascade'),
    environment: p.enum([...ENVIRONMENTS]),
    /** Of the same site: a foreign key over both columns says so. */
    release: () => p.manyToOne(ReleaseEntity).index(),
    changedBy: p.string(),
    changedAt: p.datetime(),
    version: p.integer().version(),
  },
});
export type Pointer = InferEntity<typeof PointerEntity>;

/** What lists say of a site, as of a revision of it. Revisions are counted by a trigger on the trail. */
export const SiteSummaryEntity = defineEntity({
  name: 'SiteSummary',
  tableName: 'site_summary',
  properties: {
    site: () => p.oneToOne(SiteEntity).primary().owner().deleteRule('cascade'),
    revision: p.integer().default(0),
    /** The revision that the rest is of; null before the first time. */
    summedRevision: p.integer().nullable(),
    /** From then on time alone may have changed it. */
    freshUntil: p.datetime().nullable(),
    /** The transaction that wrote it last. */
    changed: p.string().columnType('xid8').defaultRaw('pg_current_xact_id()').index(),
    snippets: p.json<SummaryOfSite['snippets']>().defaultRaw(`'{"on":0,"off":0,"archived":0}'`),
    findings: p
      .json<SummaryOfSite['findings']>()
      .defaultRaw(`'{"error":0,"warning":0,"advice":0,"waived":0}'`),
    pendingChanges: p.integer().default(0),
    attention: p.json<SummaryOfSite['attention']>().defaultRaw(`'[]'`),
    /** The same for readers of any language. */
    said: p.json<SummaryOfSite['attention']>().columnType('json').nullable(),
    /** What needs somebody most comes first. */
    urgency: p.integer().default(0),
  },
});
type SummaryOfSite = Pick<SiteResource, 'snippets' | 'findings' | 'attention'>;

/** That a snippet which follows no recipe is an install of one, as its code tells. */
export const RecognisedUseEntity = defineEntity({
  name: 'RecognisedUse',
  tableName: 'recognised_use',
  properties: {
    id: p.integer().primary(),
    snippet: () => p.oneToOne(SnippetEntity).owner().deleteRule('cascade'),
    recipe: p.string().index(),
  },
});

/** That somebody accepted a finding for a while. */
export const WaiverEntity = defineEntity({
  name: 'Waiver',
  tableName: 'waiver',
  checks: [{ name: 'waiver_until_check', expression: `"until" ~ '^\\d{4}-\\d{2}-\\d{2}$'` }],
  uniques: [{ properties: ['site', 'finding'] }],
  properties: {
    id: p.integer().primary(),
    site: () => p.manyToOne(SiteEntity).deleteRule('cascade'),
    finding: p.string(),
    fingerprint: p.string(),
    title: p.text(),
    reason: p.text(),
    author: p.string(),
    until: p.string().length(10),
    createdAt: p.datetime(),
  },
});
export type WaiverRow = InferEntity<typeof WaiverEntity>;

/** One version of a recipe. A trigger of the database refuses to change or delete one. */
export const RecipeEntity = defineEntity({
  name: 'Recipe',
  tableName: 'recipe',
  uniques: [{ properties: ['key', 'version'] }],
  properties: {
    id: p.integer().primary(),
    key: p.string(),
    version: p.integer(),
    body: p.json<Recipe>(),
    createdBy: p.string(),
    createdAt: p.datetime(),
  },
});

/** That somebody did something at a provider. */
export const StepTickEntity = defineEntity({
  name: 'StepTick',
  tableName: 'step_tick',
  uniques: [{ properties: ['site', 'recipe', 'step', 'host'] }],
  properties: {
    id: p.integer().primary(),
    site: () => p.manyToOne(SiteEntity).deleteRule('cascade'),
    recipe: p.string(),
    step: p.string(),
    /** Empty where the step is for the whole site. */
    host: p.string(),
    by: p.string(),
    at: p.datetime(),
  },
});
export type StepTickRow = InferEntity<typeof StepTickEntity>;

/** Who did what, when. Rows are only ever added. */
export const AuditEntity = defineEntity({
  name: 'Audit',
  tableName: 'audit',
  properties: {
    id: p.integer().primary(),
    site: () => p.manyToOne(SiteEntity).nullable().deleteRule('set null').index(),
    action: p.string(),
    message: p.text(),
    /** The same for readers of any language. */
    said: p.text().nullable(),
    by: p.string(),
    /** Name of the token that it was done with. */
    token: p.string().nullable(),
    /** From which it was asked. */
    address: p.string().nullable(),
    at: p.datetime().index(),
  },
});
export type Audit = InferEntity<typeof AuditEntity>;

/** What an entry of the trail did to one thing. Rows are only ever added. */
export const TrailChangeEntity = defineEntity({
  name: 'TrailChange',
  tableName: 'trail_change',
  indexes: [{ properties: ['key', 'kind'] }],
  properties: {
    id: p.integer().primary(),
    entry: () => p.manyToOne(AuditEntity).deleteRule('cascade').index(),
    kind: p.string(),
    key: p.string(),
    before: p.json<object>().nullable(),
    after: p.json<object>().nullable(),
  },
});

/** A link of the chain over the trail. It outlives its entry. Rows are only ever added. */
export const TrailLinkEntity = defineEntity({
  name: 'TrailLink',
  tableName: 'trail_link',
  properties: {
    number: p.integer().primary().autoincrement(false),
    entry: p.integer().unique(),
    at: p.datetime(),
    digest: p.string().length(64).columnType('char(64)'),
    hash: p.string().length(64).columnType('char(64)'),
  },
});

export const entities = [
  SiteEntity,
  people.MemberEntity,
  people.CredentialEntity,
  people.RecoveryCodeEntity,
  people.PasskeyEntity,
  people.IdentityEntity,
  people.MembershipEntity,
  people.InvitationEntity,
  people.InvitedRoleEntity,
  people.TokenSiteEntity,
  HostEntity,
  SnippetEntity,
  PartEntity,
  ReleaseContentEntity,
  ReleaseEntity,
  PointerEntity,
  SiteSummaryEntity,
  RecognisedUseEntity,
  WaiverEntity,
  RecipeEntity,
  StepTickEntity,
  AuditEntity,
  TrailChangeEntity,
  TrailLinkEntity,
];
