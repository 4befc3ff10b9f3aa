import { canonicalJson, formatMessage } from '@pragmatica/core';
import { z } from 'zod';
import { changeInWords, snapshot } from './release.js';
import { code, day, environment, key, timestamp, title } from './common.js';
import { finding, findingCounts } from './finding.js';
import { box } from './paste.js';
import { recipe } from './recipe.js';
import { host } from './site.js';
import { FIELD_TEXTS } from '../texts/field-texts.js';

/** Parts of one snippet; more is a mistake of whatever wrote the file. */
const MAX_PARTS = 20;
const MAX_SNIPPETS = 5_000;

/** A set that comes from a file: as strict as what is typed in. */
const setFromFile = snapshot.superRefine(({ snippets }, context) => {
  const wrong = (path: (string | number)[], message: string): void =>
    context.addIssue({ code: 'custom', path, message });
  if (snippets.length > MAX_SNIPPETS) wrong(['snippets'], FIELD_TEXTS.snippetsMany);
  const keys = new Map<string, number>();
  snippets.forEach((snippet, index) => {
    if (keys.has(snippet.key)) wrong(['snippets', index, 'key'], FIELD_TEXTS.keyTwice);
    keys.set(snippet.key, index);
    if (snippet.parts.length > MAX_PARTS) wrong(['snippets', index, 'parts'], FIELD_TEXTS.partsMany);
    snippet.parts.forEach((part, number) => {
      const read = code.safeParse(part.code);
      if (!read.success) wrong(['snippets', index, 'parts', number, 'code'], read.error.issues[0]!.message);
    });
  });
});

export const importInput = z
  .strictObject({
    set: setFromFile,
    removes: z.boolean().default(false).meta({
      description:
        'Whether what is not in the set goes: snippets, and of the site’s own set page groups and fields.',
    }),
    preview: z.boolean().default(false).meta({ description: 'Only say what would change.' }),
  })
  .meta({ id: 'ImportInput' });
export type ImportInput = z.input<typeof importInput>;

export const imported = z
  .object({
    isDone: z.boolean(),
    changes: z.array(changeInWords),
    code: z
      .array(z.object({ part: z.string(), before: z.string(), after: z.string() }))
      .meta({ description: 'Code that differs, part by part.' }),
    found: z.array(finding).meta({ description: 'Findings that are new with it.' }),
    gone: z.array(finding).meta({ description: 'Findings that are no more.' }),
    counts: findingCounts.meta({ description: 'Of the draft with it.' }),
    kept: z
      .array(z.object({ key, name: title }))
      .meta({ description: 'Snippets of the site that the set does not have, and that stay.' }),
  })
  .meta({ id: 'Imported' });
export type ImportedResource = z.infer<typeof imported>;

export const SITE_FORMAT = 'pragmatica-site/1';

/** A whole site in one file. */
export const siteFile = z
  .strictObject({
    format: z.literal(SITE_FORMAT, {
      error: () => formatMessage(FIELD_TEXTS.formatOther, { format: SITE_FORMAT }),
    }),
    draft: setFromFile,
    hosts: z.array(host).max(50),
    boxes: z.array(box).default([]),
    releases: z
      .array(
        z.strictObject({
          number: z.int().min(1),
          message: title,
          author: z.string().min(1).max(200),
          createdAt: timestamp,
          digest: z.string().regex(/^[0-9a-f]{64}$/),
          forced: z
            .strictObject({
              reason: z.string().max(2_000),
              findings: z.array(z.strictObject({ id: z.string(), check: z.string(), title: z.string() })),
            })
            .nullable(),
          set: snapshot,
        }),
      )
      .max(20_000)
      .meta({ description: 'The oldest first, their numbers without a gap.' }),
    serves: z
      .partialRecord(environment, z.int())
      .meta({ description: 'The release that each environment serves.' }),
    recipes: z.array(recipe).max(1_000).meta({ description: 'Those that snippets are installs of.' }),
    ticks: z
      .array(
        z.strictObject({
          ...{ recipe: key, step: z.string().max(200), host: z.string().max(253) },
          ...{ by: z.string().max(200), at: timestamp },
        }),
      )
      .max(5_000)
      .meta({ description: 'What was ticked off of what is to be done at providers.' }),
    waivers: z.array(
      z.strictObject({
        ...{ finding: z.string().max(300), fingerprint: z.string().max(300), title: z.string().max(2_000) },
        ...{ reason: z.string().max(2_000), author: z.string().max(200), until: day },
      }),
    ),
  })
  .superRefine(({ releases, serves }, context) => {
    releases.forEach(({ number }, index) => {
      if (number !== index + 1)
        context.addIssue({
          code: 'custom',
          path: ['releases', index, 'number'],
          message: formatMessage(FIELD_TEXTS.releaseMissing, { number: index + 1 }),
        });
    });
    for (const [name, number] of Object.entries(serves))
      if (number > releases.length)
        context.addIssue({ code: 'custom', path: ['serves', name], message: FIELD_TEXTS.releaseUnknown });
  })
  .meta({ id: 'SiteFile', description: 'A whole site: its set, releases, recipes and what was accepted.' });
export type SiteFile = z.infer<typeof siteFile>;

export const siteFileInput = z
  .strictObject({
    file: siteFile,
    key: key.optional().meta({ description: 'Of the new site; that of the file when left out.' }),
    withHosts: z
      .boolean()
      .default(true)
      .meta({ description: 'Whether the hosts come along; a host belongs to one site only.' }),
    preview: z.boolean().default(false).meta({ description: 'Only say what would come.' }),
  })
  .meta({ id: 'SiteFileInput' });

export const importedSite = z
  .object({
    isDone: z.boolean(),
    key,
    name: title,
    snippets: z.int(),
    releases: z.int(),
    hosts: z.array(z.string()),
    taken: z
      .object({ key: z.boolean(), hosts: z.array(z.string()) })
      .meta({ description: 'What sites that are here have already.' }),
    recipes: z
      .array(z.object({ key, version: z.int(), name: title }))
      .meta({ description: 'Versions of recipes that are new here.' }),
    waivers: z.int(),
    found: z.array(finding).meta({ description: 'What the checks find in its draft.' }),
  })
  .meta({ id: 'ImportedSite' });
export type ImportedSiteResource = z.infer<typeof importedSite>;

/** A site file as text: the same data is the same text, byte for byte (RFC 8785, then indented). */
export function siteFileText(file: SiteFile): string {
  return `${JSON.stringify(JSON.parse(canonicalJson(file)), null, 2)}\n`;
}

/** The JSON Schema of a site file. */
export function siteJsonSchema(): Record<string, unknown> {
  const { id: _, ...schema } = z.toJSONSchema(siteFile, {
    io: 'input',
    unrepresentable: 'any',
    reused: 'ref',
  }) as Record<string, unknown>;
  return { ...schema, $id: `urn:pragmatica:schema:${SITE_FORMAT.replace('/', ':')}` };
}
