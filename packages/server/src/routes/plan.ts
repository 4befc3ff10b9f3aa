import type { HandlersOf } from '../http/context.js';
import { showCalendar } from '../site/calendar.js';
import { showPlan } from '../site/page-plan.js';
import type { Sets } from '../site/sets.js';

export function planHandlers(sets: Sets): HandlersOf<'showPlan' | 'showCalendar'> {
  return {
    async showPlan({ params, query }, { store }) {
      return { data: await showPlan(sets, store, params.site, query) };
    },

    async showCalendar({ params, query }, { store }) {
      return { data: await showCalendar(store, params.site, params.snippet, query.at) };
    },
  };
}
