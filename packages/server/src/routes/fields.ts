import type { HandlersOf } from '../http/context.js';
import { pagePosition } from '../http/page-position.js';
import { changeFields } from '../site/change-fields.js';
import { listFieldNames, listFields, type FieldPosition } from '../storage/field-rows.js';

const POSITION: FieldPosition = ['', 0, 0];

export function fieldHandlers(): HandlersOf<'listFields' | 'changeFields'> {
  return {
    async listFields({ query: { q, after, limit, name, site } }, { store }) {
      const { rows, next } = await listFields(store, {
        ...{ searched: q, limit, name, sites: site?.split(',') },
        after: pagePosition(after, POSITION),
      });
      return {
        data: {
          items: rows.map(({ site: key, siteName, field }) => ({ site: key, siteName, field: { ...field } })),
          next,
          names: await listFieldNames(store),
        },
      };
    },

    async changeFields({ body }, { store, actor }) {
      return { data: { items: await changeFields(store, body.changes, actor) } };
    },
  };
}
