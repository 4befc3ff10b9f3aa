import { sitesWith } from '@pragmatica/core';
import type { HandlersOf } from '../http/context.js';
import { pagePosition } from '../http/page-position.js';
import { changeFields } from '../site/change-fields.js';
import { listFieldNames, listFields, type FieldPosition } from '../storage/field-rows.js';

const POSITION: FieldPosition = ['', 0, 0];

export function fieldHandlers(): HandlersOf<'listFields' | 'changeFields'> {
  return {
    async listFields({ query: { q, after, limit, name, site } }, { store, access }) {
      const seen = sitesWith(access, 'view');
      const { rows, next } = await listFields(store, {
        ...{ searched: q, limit, name, sites: site?.split(',') ?? 'all', seen },
        after: pagePosition(after, POSITION),
      });
      return {
        data: {
          items: rows.map(({ site: key, siteName, field }) => ({ site: key, siteName, field: { ...field } })),
          next,
          names: await listFieldNames(store, seen),
        },
      };
    },

    async changeFields({ body }, context) {
      return { data: { items: await changeFields(body.changes, context) } };
    },
  };
}
