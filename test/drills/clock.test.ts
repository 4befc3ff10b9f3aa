import { createClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { expect } from 'chai';
import { eventually, send } from '../support/http.js';
import { refusal } from '../support/refusal.js';
import { ADMIN, startStage, type Stage } from '../support/stage.js';

const DAY_MS = 86_400_000;
const params = { site: 'skerrywick' };
const RealDate = Date;

/** The service's clock, so much ahead of what it was; the database has one of its own. */
function shiftClock(ms: number): void {
  globalThis.Date =
    ms === 0
      ? RealDate
      : (class extends RealDate {
          constructor(...values: [number]) {
            super(...((values as unknown[]).length === 0 ? ([RealDate.now() + ms] as [number]) : values));
          }
          static override now(): number {
            return RealDate.now() + ms;
          }
        } as DateConstructor);
}

describe('drills: clocks that jump', function () {
  this.timeout(60_000);
  let stage: Stage;
  before(async () => {
    stage = await startStage();
  });
  afterEach(() => shiftClock(0));
  after(() => stage.close());

  const signIn = (password: string) =>
    createClient({ server: stage.server, fetch: localhostFetch }).call('signIn', {
      body: { login: ADMIN.login, password },
    });
  const make = (key: string) =>
    stage.client.call('createSnippet', {
      params,
      body: { key, name: key, parts: [{ placement: 'head-end', code: `<meta name="${key}" content="1">` }] },
    });
  const publish = async (message: string): Promise<number> =>
    (await stage.client.call('publish', { params, ifMatch: '*', body: { message, force: 'A drill' } })).data
      .number;

  it('lock nobody out: a wait is as long as it was said to be', async () => {
    shiftClock(DAY_MS);
    while ((await refusal(signIn('wrong'))).id !== 'wait-seconds');
    shiftClock(0);
    const { detail } = await refusal(signIn(ADMIN.password));
    expect(detail).to.match(/Wait \d seconds?,/);
    await eventually(() => signIn(ADMIN.password), 10_000);
  });

  for (const days of [2, -2])
    it(`leave releases, pages and the trail in the order in which they were made (${days} days)`, async () => {
      await make(`before${days}`);
      const first = await publish('before');
      shiftClock(days * DAY_MS);
      await make(`during${days}`);
      expect(await publish('during')).to.equal(first + 1);
      shiftClock(0);
      await make(`after${days}`);
      expect(await publish('after')).to.equal(first + 2);
      await eventually(async () => {
        const { headers, text } = await send({ port: stage.gatewayPort, host: 'skerrywick.localhost' });
        expect(headers['pragmatica-release']).to.equal(String(first + 2));
        expect(text).to.include(`name="after${days}"`);
      });
      const { items } = (await stage.client.call('listReleases', { params, query: {} })).data;
      expect(items.slice(0, 3).map(({ message }) => message)).to.deep.equal(['after', 'during', 'before']);
      const { items: entries } = (await stage.client.call('listActivity', { params, query: { limit: 6 } }))
        .data;
      expect(entries.map(({ action }) => action).filter((action) => action === 'publish')).to.have.length(3);
      for await (const event of stage.client.stream('verifyTrail', { query: {} }))
        if (event.type === 'done') expect(event).to.include({ isWhole: true, faults: 0 });
    });

  it('end nobody’s session before its time, once the clock is right again', async () => {
    shiftClock(400 * DAY_MS);
    expect((await refusal(stage.client.call('showSession', {}))).id).to.equal('sign-in-first');
    shiftClock(0);
    await stage.client.call('showSession', {});
  });
});
