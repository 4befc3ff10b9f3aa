import type { VisitRoundInput } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { DELIVERY_KEYS, deliveryOf } from '@pragmatica/core';
import { WAYS_SITE, wayHost } from '@pragmatica/demo';
import { expect } from 'chai';
import { startStage, type Stage } from '../support/stage.js';
import { startStageWays, type StartedWays } from '../support/ways.js';
import { visitSite } from '../support/visits.js';

/** What the demo's set does on its home and booking pages: delivered, loaded, ran, shown, reported. */
const WELL = {
  'cookie-question': 'reached reached reached reached reached',
  'tag-container': 'reached reached reached none reached',
  'visit-counter': 'reached reached reached none reached',
  'booking-pixel': 'reached reached reached none reached',
  'booking-button': 'reached reached reached reached reached',
  'newsletter-form': 'reached reached reached reached reached',
  'harbour-chat': 'reached reached reached reached reached',
  'summer-offer': 'reached reached reached reached reached',
};

describe('a new visitor, by every way', function () {
  this.timeout(240_000);
  let stage: Stage;
  let ways: StartedWays;

  before(async () => {
    stage = await startStage({ hasWorker: true });
    ways = await startStageWays(stage);
  });

  after(async () => {
    await ways.close();
    await stage.close();
  });

  async function visit(body: VisitRoundInput) {
    const rest = { pages: ['/', '/booking'], devices: ['desktop' as const] };
    return (await visitSite(stage.client, WAYS_SITE, { ...rest, ...body })).summary;
  }

  const misbehave = (how: string) =>
    localhostFetch(`http://parlanook.localhost:${stage.providerPort}/misbehave?how=${how}`, {
      method: 'POST',
    });

  for (const delivery of DELIVERY_KEYS) {
    const host = wayHost(delivery);

    it(`finds that everything works: ${deliveryOf(delivery).name}`, async () => {
      const { snippets, failed, doubled, isWell } = await visit({ host });
      const rungs = snippets.flatMap(({ snippet, devices }) =>
        devices.map((one) => [snippet, Object.values(one.rungs).join(' ')]),
      );
      expect(Object.fromEntries(rungs)).to.deep.equal(WELL);
      expect([failed, doubled, isWell]).to.deep.equal([[], [], true]);
    });

    it(`finds what a provider broke, and only that, in a rehearsal: ${deliveryOf(delivery).name}`, async () => {
      await misbehave('down');
      const { snippets } = await visit({ host, draft: true });
      await misbehave('');
      const lost = snippets.flatMap(({ snippet, problems }) =>
        problems.map(({ rung, cause }) => [snippet, rung, cause.who]),
      );
      expect(lost).to.deep.equal([['harbour-chat', 'loaded', 'provider']]);
    });
  }
});
