import type { HandlersOf } from '../http/context.js';
import { endSchedule, listSchedules, setSchedule } from '../site/surveys/schedules.js';

export function scheduleHandlers(): HandlersOf<'listSchedules' | 'setSchedule' | 'endSchedule'> {
  return {
    async listSchedules({ params }, { store }) {
      return { data: { items: await listSchedules(store, params.site) } };
    },

    async setSchedule({ params, body }, context) {
      await setSchedule(params.site, params.host, body, context);
      return { data: undefined };
    },

    async endSchedule({ params }, context) {
      await endSchedule(params.site, params.host, context);
      return { data: undefined };
    },
  };
}
