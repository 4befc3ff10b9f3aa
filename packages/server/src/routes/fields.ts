import type { HandlersOf } from '../http/context.js';
import { pagePosition } from '../http/page-position.js';
import { changeFields } from '../site/change-fields.js';
import { listFieldNames, listFields, type FieldPosition } from '../storage/field-rows.js';

const POSITION: FieldPosition = ['', 0, 0];

export function fieldHandlers(): HandlersOf<'listFields' | 'changeFields'> {
  return {
    async listFields({ query: { q, after, limit, name, site } }, { em }) {
      const { rows, next } = await listFields(em, {
        ...{ searched: q, limit, name, sites: site?.split(',') },
        after: pagePosition(after, POSITION),
      });
      return {
        data: {
          items: rows.map(({ site: key, siteName, field }) => ({ site: key, siteName, field: { ...field } })),
          next,
          names: await listFieldNames(em),
        },
      };
    },

    async changeFields({ body }, { em, actor }) {
      return { data: { items: await changeFields(em, body.changes, actor) } };
    },
  };
}
