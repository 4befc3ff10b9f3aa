import { BOX_KEYS } from '@pragmatica/core';
import { z } from 'zod';
import { environment, key, path, timestamp } from './common.js';
import { ENDS_HERE, refuseTwice } from './bounds.js';
import { FIELD_TEXTS } from '../texts/field-texts.js';
import { says } from './says.js';

export const boxKind = z.enum(BOX_KEYS);

/** A box into which a site builder lets its owner paste code. */
export const box = z
  .strictObject({
    kind: boxKind,
    name: z
      .string()
      .trim()
      .min(1, says('boxName'))
      .max(100)
      .meta({ description: 'What the box is called in the site builder.' }),
    maxLength: z.int().min(100).max(1_000_000).optional().meta({ description: 'Characters that it takes.' }),
    stripsScripts: z.boolean().optional(),
    stripsComments: z.boolean().optional(),
  })
  .meta({ id: 'PasteBox' });
export type BoxResource = z.infer<typeof box>;

export const boxesInput = z
  .strictObject({
    boxes: z
      .array(box)
      .max(50, ENDS_HERE)
      .superRefine((boxes, context) => {
        refuseTwice(boxes, 'kind', context, FIELD_TEXTS.boxTwice);
      }),
  })
  .meta({ id: 'PasteBoxes' });

export const blocksQuery = z.strictObject({
  environment: environment.default('live'),
  of: z
    .enum(['served', 'draft'])
    .default('served')
    .meta({ description: 'What the environment serves, or what the draft would need.' }),
});

const pasted = z
  .object({ release: z.int(), by: z.string(), at: timestamp })
  .meta({ description: 'What somebody has said is pasted there.' });

const place = { kind: boxKind, page: z.string().nullable() };

export const blocks = z
  .object({
    release: z.int().nullable().meta({ description: 'Null while nothing is published, and of a draft.' }),
    boxes: z.array(box),
    blocks: z.array(
      z.object({
        ...place,
        name: z.string(),
        text: z.string(),
        digest: z.string(),
        parts: z.array(z.object({ key: z.string(), name: z.string() })),
        hoursUntil: timestamp.nullable().meta({ description: 'Opening hours in it are right up to then.' }),
        tooLongBy: z.int().nullable().meta({ description: 'Characters more than the box takes.' }),
        state: z.enum(['open', 'outdated', 'done']),
        pasted: pasted.nullable(),
      }),
    ),
    left: z.array(z.object({ snippet: key, name: z.string(), message: z.string() })),
    obsolete: z
      .array(z.object({ ...place, name: z.string(), pasted }))
      .meta({ description: 'Pasted once, and needed no more: to be emptied.' }),
  })
  .meta({ id: 'PasteBlocks' });
export type BlocksResource = z.infer<typeof blocks>;

export const blockTick = z
  .strictObject({
    kind: boxKind,
    page: path.nullable().default(null),
    digest: z
      .string()
      .max(12)
      .regex(/^[0-9a-f]{12}$/)
      .nullable()
      .meta({ description: 'Of the block that is pasted there now; null for an empty box.' }),
    environment: environment.default('live'),
  })
  .meta({ id: 'BlockTick' });

export const blockSight = z.object({
  page: z.string(),
  problem: z.string().nullable().meta({ description: 'Why the page could not be looked at.' }),
  findings: z.array(
    z.object({
      kind: boxKind,
      name: z.string(),
      state: z.enum(['right', 'missing', 'altered', 'outdated', 'twice', 'needless']),
      release: z.int().nullable().meta({ description: 'Which release the page holds.' }),
      message: z.string(),
    }),
  ),
});

export const blockCheck = z
  .object({
    release: z.int(),
    pages: z.array(blockSight),
    counts: z.object({ right: z.int(), wrong: z.int() }),
  })
  .meta({ id: 'BlockCheck', description: 'What the boxes really hold, page by page.' });
export type BlockCheckResource = z.infer<typeof blockCheck>;

export const line = z
  .object({
    order: z
      .string()
      .meta({ description: 'Parts run in the order of the set, and hold the page up where they would.' }),
    async: z.string().meta({ description: 'No page waits for it.' }),
    fragments: z
      .object({
        base: z.string(),
        includes: z.array(z.object({ placement: z.string(), ssi: z.string(), esi: z.string() })),
        nginx: z.string(),
      })
      .meta({ description: 'What to write where a web server or templates include what a page gets.' }),
  })
  .meta({ id: 'Line' });
export type LineResource = z.infer<typeof line>;
