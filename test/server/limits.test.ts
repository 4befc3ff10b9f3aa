import { COUNT_LIMITS, RATE_LIMITS, type CountLimit } from '@pragmatica/contract';
import { expect } from 'chai';
import { send } from '../support/http.js';
import { callAs, PASSWORD, secretOf } from '../support/members.js';
import { startStage, type Stage } from '../support/stage.js';

const params = { site: 'mill' };
/** So many of everything, so that one more is soon one too many. */
const FEW = 3;

/** Makes one more of something; the number tells them apart. */
type MakeOne = (stage: Stage, number: number) => Promise<unknown>;

const part = (number: number) => [
  { placement: 'head-end' as const, code: `<script>var a${number};</script>` },
];
const recipe = (number: number) => ({
  format: 'pragmatica-recipe/1' as const,
  ...{
    key: `recipe-${number}`,
    version: 1,
    name: `Recipe ${number}`,
    provider: 'Stoat',
    summary: 'It counts',
  },
  parts: [{ key: 'code', placement: 'head-end' as const, code: '<script>1</script>' }],
});

/** One way for each limit of the table: a limit without one fails below. */
const MAKE: Readonly<Record<CountLimit, MakeOne>> = {
  sites: (stage, n) => stage.client.call('createSite', { body: { key: `s${n}`, name: `S ${n}` } }),
  snippets: (stage, n) =>
    stage.client.call('createSnippet', { params, body: { name: `Snippet ${n}`, parts: part(n) } }),
  tokens: (stage, n) => stage.client.call('createToken', { body: { name: `Token ${n}` } }),
  webhooks: (stage, n) =>
    stage.client.call('addWebhook', { params, body: { url: `https://hook.example/${n}` } }),
  handovers: (stage) => stage.client.call('createHandover', { params, body: {} }),
  invitations: (stage, n) =>
    stage.client.call('createInvitation', { body: { name: `N ${n}`, role: 'view', sites: [] } }),
  members: async (stage, n) => {
    const { data } = await stage.client.call('createInvitation', {
      body: { name: `N ${n}`, role: 'view', sites: [] },
    });
    const person = { login: `person${n}`, name: `Person ${n}`, password: PASSWORD };
    await stage.client.call('acceptInvitation', { body: { secret: secretOf(data), ...person } });
  },
  recipes: (stage, n) => stage.client.call('importRecipe', { body: recipe(n) }),
  approvals: (stage, n) =>
    stage.client.call('askApproval', { params, ifMatch: '*', body: { message: `Request ${n}` } }),
  comments: (stage, n) =>
    stage.client.call('addComment', { params, body: { text: `Comment ${n}`, snippet: 'one' } }),
  waivers: async (stage) => {
    const { items } = (await stage.client.call('listFindings', { params, query: {} })).data;
    const [first] = items.filter(({ severity }) => severity !== 'error');
    const body = { reason: 'It is so for now', until: '2999-12-31' };
    await stage.client.call('waiveFinding', { params: { ...params, finding: first!.id }, body });
  },
  // Made by a browser: counted in `console/passkeys.test.ts`.
  passkeys: () => Promise.resolve(),
  // Takes an identity provider: counted in `identities.test.ts`.
  identities: () => Promise.resolve(),
};
const ELSEWHERE: readonly CountLimit[] = ['passkeys', 'identities'];

describe('limits', function () {
  this.timeout(60_000);

  for (const what of Object.keys(COUNT_LIMITS) as CountLimit[]) {
    if (ELSEWHERE.includes(what)) continue;
    it(`of ${what} are kept, and said`, async () => {
      const rates = 'calls-of-member=100000, calls-of-stranger=100000, calls-of-installation=100000';
      const few = what === 'members' ? `members=${FEW}` : `${what}=${FEW}`;
      const stage = await startStage({ hasDemo: false, settings: { PRAGMATICA_LIMITS: `${few}, ${rates}` } });
      try {
        await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
        if (what !== 'snippets') await findings(stage);
        let made = 0;
        let refused: unknown;
        while (made <= FEW && refused === undefined)
          await MAKE[what](stage, ++made).catch((error: unknown) => {
            refused = error;
          });
        expect(String(refused)).to.match(/^ApiError: .*\b3 (?:\w+ )*.*raise the limit\.$/);
        expect(refused).to.have.nested.property('problem.status', 409);
      } finally {
        await stage.close();
      }
    });
  }

  /** A draft in which the checks find a few things that can be accepted. */
  async function findings(stage: Stage): Promise<void> {
    for (const name of ['One', 'Two', 'Three', 'Four', 'Five'])
      await stage.client.call('createSnippet', {
        params,
        body: {
          name,
          parts: [
            {
              placement: 'head-start',
              code: `<script src="http://${name.toLowerCase()}.example/a.js"></script>`,
            },
          ],
        },
      });
  }

  it('of snippets hold however they come: in a set, or one by one', async () => {
    const stage = await startStage({
      hasDemo: false,
      settings: { PRAGMATICA_LIMITS: 'snippets=2, calls-of-member=100000' },
    });
    try {
      await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
      await MAKE.snippets(stage, 1);
      const { snapshot } = (await stage.client.call('showDraft', { params })).data;
      const more = ['b', 'c'].map((key) => ({ ...snapshot.snippets[0]!, key }));
      const set = { ...snapshot, snippets: [...snapshot.snippets, ...more] };
      const body = { set, removes: false, preview: false };
      const answer = await callAs(stage, stage.token, 'POST', '/sites/mill/draft', body, {
        'if-match': '*',
      });
      expect(answer.status === 409 ? answer.id : answer.status).to.equal('limit-reached');
      expect((await stage.client.call('showDraft', { params })).data.snapshot.snippets).to.have.length(1);
    } finally {
      await stage.close();
    }
  });

  it('of calls are counted by member, address and installation, and every answer says what is left', async () => {
    const few = Object.keys(RATE_LIMITS).map(
      (name) => `${name}=${name === 'calls-of-installation' ? 40 : 6}`,
    );
    const stage = await startStage({ hasDemo: false, settings: { PRAGMATICA_LIMITS: few.join(',') } });
    try {
      const ask = async (headers: Record<string, string>) => {
        const answer = await send({
          port: Number(new URL(stage.server).port),
          method: 'GET',
          path: '/api/v1/session',
          headers,
        });
        return { status: answer.status, headers: answer.headers };
      };
      const member = { authorization: `Bearer ${stage.token}` };
      const first = await ask(member);
      expect(first.status).to.equal(200);
      const policy = String(first.headers['ratelimit-policy']);
      expect(policy).to.match(/"calls-of-installation"; q=40; w=60/);
      expect(policy).to.match(/"calls-of-member"; q=6; w=60/);
      const left = /"calls-of-member"; r=(\d+); t=(\d+)/.exec(String(first.headers['ratelimit']))!;
      expect(Number(left[1])).to.equal(5);
      expect(Number(left[2])).to.be.within(1, 60);
      for (let call = 0; call < 5; call++) expect((await ask(member)).status).to.equal(200);
      const over = await ask(member);
      expect(over.status).to.equal(429);
      expect(Number(over.headers['retry-after'])).to.be.within(1, 60);
      // A stranger is somebody else, and is counted by address, whatever secrets they try.
      for (let call = 0; call < 6; call++)
        expect((await ask({ authorization: `Bearer wrong-${call}` })).status).to.equal(401);
      expect((await ask({ authorization: 'Bearer wrong' })).status).to.equal(429);
      // The installation as a whole ends it for all.
      const statuses = [];
      for (let call = 0; call < 30; call++) statuses.push((await ask({})).status);
      expect(new Set(statuses)).to.deep.equal(new Set([429]));
    } finally {
      await stage.close();
    }
  });
});
