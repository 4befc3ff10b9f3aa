import { toHar } from '@pragmatica/core';
import type { HandlersOf } from '../http/context.js';
import { numberPosition } from '../http/page-position.js';
import type { JobQueue } from '../jobs/queue.js';
import { pagePicture } from '../jobs/page-picture.js';
import { trouble } from '../jobs/trouble.js';
import { watchVisits } from '../jobs/watch-visits.js';
import { why } from '../jobs/why.js';
import { checkPlace, nameElement, type NamingTools } from '../site/name-element.js';
import type { Sets } from '../site/sets.js';
import { findSite } from '../site/site-lock.js';
import { cancelVisits, startVisits } from '../site/visits/start-visits.js';
import { loadEvidence, showScreenshot, showVisit, showVisitPage } from '../site/visits/visit-detail.js';
import { roundResource, showRound } from '../site/visits/visit-resource.js';
import { showWeight } from '../site/visits/weight.js';
import { toPage } from '../storage/cursor.js';
import { roundsOf } from '../storage/visit-rounds.js';
import { VERSION } from '../version.js';

export function visitHandlers(
  sets: Sets,
  queue: Pick<JobQueue, 'send'>,
  reading: Omit<NamingTools, 'sets'>,
): HandlersOf<
  | 'startVisits'
  | 'listVisitRounds'
  | 'showVisitRound'
  | 'showWeight'
  | 'watchVisits'
  | 'cancelVisits'
  | 'showVisit'
  | 'showScreenshot'
  | 'showVisitPage'
  | 'exportHar'
  | 'pagePicture'
  | 'nameElement'
  | 'checkPlace'
  | 'why'
  | 'findTrouble'
> {
  const naming = { client: reading.client, readers: reading.readers, sets };
  return {
    async startVisits({ params, body }, context) {
      const round = await startVisits(params.site, body, context);
      await queue.send('visits', { round: round.id });
      return {
        data: roundResource(round, context.locale),
        location: `/api/v1/sites/${params.site}/visit-rounds/${round.number}`,
      };
    },

    async listVisitRounds({ params, query: { limit, after } }, { store, locale }) {
      const site = await findSite(store, params.site);
      const rows = await roundsOf(store, site, limit + 1, numberPosition(after)?.[0]);
      const { page, next } = toPage(rows, limit, ({ number }) => [number]);
      return { data: { items: page.map((round) => roundResource(round, locale)), next } };
    },

    async showVisitRound({ params }, { store, locale }) {
      return { data: await showRound(store, params.site, params.round, locale) };
    },

    async showWeight({ params, query }, { store }) {
      return { data: await showWeight(store, params.site, query.round) };
    },

    watchVisits({ params }, { store, locale }) {
      return watchVisits({ ...params, locale }, store);
    },

    async cancelVisits({ params }, context) {
      return { data: roundResource(await cancelVisits(params.site, params.round, context), context.locale) };
    },

    async showVisit({ params }, { store }) {
      return { data: await showVisit(store, params.site, params.round, params.visit) };
    },

    async showScreenshot({ params }, { store }) {
      const { site, round, visit, screenshot } = params;
      return { data: await showScreenshot(store, site, round, visit, screenshot) };
    },

    async showVisitPage({ params }, { store }) {
      return { data: await showVisitPage(store, params.site, params.round, params.visit) };
    },

    async exportHar({ params }, { store }) {
      const { evidence } = await loadEvidence(store, params.site, params.round, params.visit);
      return { data: toHar(evidence, VERSION) };
    },

    pagePicture({ params, body }, context) {
      return pagePicture({ ...params, ...body }, { ...context, queue });
    },

    async nameElement({ params, body }, { store }) {
      return { data: await nameElement(naming, store, params.site, params.picture, body) };
    },

    async checkPlace({ params, body }, { store }) {
      return { data: await checkPlace(naming, store, params.site, body) };
    },

    why({ params, body }, context) {
      return why({ ...params, ...body }, { ...context, sets, queue });
    },

    findTrouble({ params, body }, context) {
      return trouble({ ...params, ...body }, { ...context, queue });
    },
  };
}
