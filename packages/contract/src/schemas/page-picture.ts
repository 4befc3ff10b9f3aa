import { ANCHOR_SIDES, DEVICES } from '@pragmatica/core';
import { z } from 'zod';
import { code, environment, placement } from './common.js';
import { pages } from './reach.js';
import { says } from './says.js';

const box = z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() });
const tried = code.default('<script></script>').meta({ description: 'What is to stand there.' });
const side = z.enum(ANCHOR_SIDES).default('inside');

export const pagePictureInput = z
  .strictObject({
    path: z.string().max(2_000).startsWith('/', says('pathForm')).default('/'),
    host: z.string().max(253).optional(),
    environment: environment.default('live'),
    device: z.enum(DEVICES).default('desktop'),
    part: z
      .strictObject({ placement, code })
      .optional()
      .meta({ description: 'Put into the page; the boxes are then those of what it shows.' }),
  })
  .meta({ id: 'PagePictureInput' });
export type PagePictureInput = z.input<typeof pagePictureInput>;

export const pagePictureEvent = z
  .discriminatedUnion('type', [
    z.object({ type: z.literal('visiting'), round: z.int() }),
    z.object({
      type: z.literal('picture'),
      round: z.int(),
      visit: z.int(),
      screenshot: z.int(),
      width: z.number().meta({ description: 'Of the page, in its pixels; boxes are in these, too.' }),
      elements: z.array(z.object({ element: z.int(), box })),
    }),
    z.object({ type: z.literal('failed'), message: z.string() }),
  ])
  .meta({ id: 'PagePictureEvent' });
export type PagePictureEvent = z.infer<typeof pagePictureEvent>;

export const elementNamesInput = z
  .strictObject({ element: z.int().min(0), side, code: tried, pages: pages.optional() })
  .meta({ id: 'ElementNamesInput' });
export type ElementNamesInput = z.input<typeof elementNamesInput>;
export type ElementNamesWish = z.output<typeof elementNamesInput>;

export const elementNames = z
  .object({
    choices: z.array(
      z.object({ selector: z.string(), holdsOn: z.array(z.string()), missingOn: z.array(z.string()) }),
    ),
    looked: z.int().meta({ description: 'Pages that were looked at.' }),
    known: z.int().meta({ description: 'Pages that are known and meant.' }),
    reason: z.string().nullable().meta({ description: 'Why nothing can stand there.' }),
  })
  .meta({ id: 'ElementNames' });
export type ElementNamesResource = z.infer<typeof elementNames>;

export const placeCheckInput = z
  .strictObject({
    placement,
    code: tried,
    pages: pages.optional(),
    environment: environment.default('live'),
    host: z.string().max(253).optional(),
  })
  .meta({ id: 'PlaceCheckInput' });
export type PlaceCheckInput = z.input<typeof placeCheckInput>;
export type PlaceCheckWish = z.output<typeof placeCheckInput>;

export const placeCheck = z
  .object({
    pages: z.array(
      z.object({
        path: z.string(),
        message: z.string().nullable().meta({ description: 'Why there is no place.' }),
      }),
    ),
    known: z.int().meta({ description: 'Pages that are known and meant; a sample of them is looked at.' }),
  })
  .meta({ id: 'PlaceCheck' });
export type PlaceCheckResource = z.infer<typeof placeCheck>;
