import { FIELD_NAME, FIELD_TYPES, fieldValueProblem } from '@pragmatica/core';
import { z } from 'zod';
import { environment, key, nextPage, pageQuery, title } from './common.js';
import { ENDS_HERE, refuseTwice } from './bounds.js';
import { FIELD_TEXTS } from '../texts/field-texts.js';
import { says } from './says.js';

const name = z
  .string()
  .max(40)
  .regex(FIELD_NAME, says('fieldName'))
  .meta({ description: 'As it stands in code: `@{name}`.', example: 'account' });
const value = z.string().max(500);

export const field = z
  .strictObject({
    name,
    type: z.enum(FIELD_TYPES),
    label: title,
    example: value
      .optional()
      .meta({ description: 'The provider’s own example; left at it, the field is not set.' }),
    value: value.optional().meta({ description: 'In every environment that has no value of its own.' }),
    live: value.optional(),
    staging: value.optional(),
  })
  .superRefine((given, context) => {
    for (const place of ['value', 'live', 'staging'] as const) {
      const typed = given[place];
      if (typed === undefined || typed === '') continue;
      const problem = fieldValueProblem(given.type, typed);
      if (problem !== undefined) context.addIssue({ code: 'custom', path: [place], message: problem });
    }
  })
  .meta({ id: 'Field', description: 'A named value in the code of a site’s snippets.' });
export type FieldResource = z.infer<typeof field>;

export const fields = z
  .array(field)
  .max(200, ENDS_HERE)
  .superRefine((list, context) => {
    refuseTwice(list, 'name', context, FIELD_TEXTS.fieldTwice);
  });

export const fieldQuery = pageQuery.extend({
  name: name.optional().meta({ description: 'Only the field of this name.' }),
  site: z
    .string()
    .max(20_000)
    .optional()
    .meta({ description: 'Keys of the sites, with commas between; all when left out.' }),
});

/** The fields of many sites, a row for each. */
export const fieldList = z.object({
  items: z.array(z.object({ site: z.string(), siteName: z.string(), field })),
  next: nextPage,
  names: z
    .array(z.object({ name, sites: z.int() }))
    .meta({ description: 'All names there are, those that most sites have first.' }),
});
export type FieldRow = z.infer<typeof fieldList>['items'][number];

/** New values for fields of several sites. */
export const fieldChanges = z
  .strictObject({
    changes: z
      .array(
        z.strictObject({
          site: key,
          name,
          environment: environment.optional().meta({ description: 'Both when left out.' }),
          value: value.nullable().meta({ description: 'Null takes it away.' }),
        }),
      )
      .min(1)
      .max(1000),
  })
  .meta({ id: 'FieldChanges' });

export type FieldChanges = z.input<typeof fieldChanges>;

/** What became of each site, in the order in which they were named. */
export const siteResults = z.object({
  items: z.array(z.object({ site: z.string(), isDone: z.boolean(), message: z.string() })),
});
export type SiteResult = z.infer<typeof siteResults>['items'][number];
