import { expect } from 'chai';
import type { Right } from '@pragmatica/core';
import { callAs, makeMember, makeToken } from '../support/members.js';
import { startStage, type Stage } from '../support/stage.js';

/** What each may, written down by hand: at the site that is theirs, at another one, for the installation, of their account. */
interface Person {
  readonly token: (stage: Stage) => Promise<string>;
  readonly here: readonly Right[];
  readonly away: readonly Right[];
  readonly installation: readonly Right[];
  readonly hasAccount: boolean;
}

const VIEW = ['view'] as const;
const EDIT = ['view', 'edit'] as const;
const PUBLISH = ['view', 'edit', 'publish'] as const;
const OWN = ['view', 'edit', 'publish', 'own'] as const;
const none = { away: [], installation: [] };

const PEOPLE: Readonly<Record<string, Person>> = {
  'a viewer of the site': {
    token: (stage) => makeMember(stage, 'viewer', { sites: { here: 'view' } }),
    ...{ here: VIEW, ...none, hasAccount: true },
  },
  'an editor of the site': {
    token: (stage) => makeMember(stage, 'editor', { sites: { here: 'edit' } }),
    ...{ here: EDIT, ...none, hasAccount: true },
  },
  'who publishes the site': {
    token: (stage) => makeMember(stage, 'publisher', { sites: { here: 'publish' } }),
    ...{ here: PUBLISH, ...none, hasAccount: true },
  },
  'an owner of the site': {
    token: (stage) => makeMember(stage, 'owner', { sites: { here: 'own' } }),
    ...{ here: OWN, ...none, hasAccount: true },
  },
  'who looks at all sites and owns this one': {
    token: (stage) => makeMember(stage, 'both', { role: 'view', sites: { here: 'own' } }),
    ...{ here: OWN, away: VIEW, installation: VIEW, hasAccount: true },
  },
  'who edits all sites': {
    token: (stage) => makeMember(stage, 'all-editor', { role: 'edit' }),
    ...{ here: EDIT, away: EDIT, installation: EDIT, hasAccount: true },
  },
  'who publishes all sites': {
    token: (stage) => makeMember(stage, 'all-publisher', { role: 'publish' }),
    ...{ here: PUBLISH, away: PUBLISH, installation: PUBLISH, hasAccount: true },
  },
  'an owner of the installation': {
    token: (stage) => Promise.resolve(stage.token),
    ...{ here: OWN, away: OWN, installation: OWN, hasAccount: true },
  },
  'an owner of another site': {
    token: (stage) => makeMember(stage, 'stranger', { sites: { elsewhere: 'own' } }),
    ...{ here: [], ...none, hasAccount: true },
  },
  'a pipeline of the site': {
    token: (stage) => makeToken(stage, { role: 'deploy', sites: ['here'] }),
    ...{ here: ['view', 'publish'], ...none, hasAccount: false },
  },
  'a token for editing all sites': {
    token: (stage) => makeToken(stage, { role: 'edit' }),
    ...{ here: EDIT, away: EDIT, installation: EDIT, hasAccount: false },
  },
  'a token for the site': {
    token: (stage) => makeToken(stage, { sites: ['here'] }),
    ...{ here: OWN, ...none, hasAccount: false },
  },
};

interface Operation {
  readonly operationId: string;
  readonly security?: readonly { readonly token?: readonly string[] }[];
  readonly requestBody?: unknown;
  readonly 'x-needs-confirmation'?: boolean;
}

/** Ends the token that asks; tried by itself. */
const ENDS_ITSELF = 'signOut';

describe('rights', function () {
  this.timeout(120_000);
  let stage: Stage;
  let operations: { method: string; path: string; operation: Operation }[];

  before(async () => {
    stage = await startStage({ hasDemo: false });
    for (const key of ['here', 'away', 'elsewhere'])
      await stage.client.call('createSite', { body: { key, name: `Site ${key}`, timeZone: 'UTC' } });
    const { json } = await callAs(stage, stage.token, 'GET', '/openapi.json');
    const paths = json['paths'] as Record<string, Record<string, Operation>>;
    operations = Object.entries(paths).flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, operation]) => ({
        method: method.toUpperCase(),
        path,
        operation,
      })),
    );
  });
  after(() => stage.close());

  /** What the description says that a call takes; fails where it says nothing. */
  function namesOf({ operationId, security }: Operation): readonly string[] | undefined {
    if (!security) return expect.fail(`The description does not say who may call "${operationId}".`);
    return security.length === 0 ? undefined : security[0]!.token!;
  }

  function expected(names: readonly string[], person: Person, isAway: boolean): number | undefined {
    const there = isAway ? person.away : person.here;
    for (const name of names) {
      const [where, right] = name.split(':') as [string, Right];
      if (where === 'account' && !person.hasAccount) return 403;
      if (where === 'site' && !there.includes('view')) return 404;
      if (where === 'site' && !there.includes(right)) return 403;
      if (where === 'installation' && !person.installation.includes(right)) return 403;
    }
    return undefined;
  }

  /** With a body that nothing takes: what may be called says so, and nothing is done. */
  const tryIt = (token: string | undefined, method: string, path: string, site: string, has: boolean) =>
    callAs(
      stage,
      token,
      method,
      path.replace('{site}', site).replace(/\{\w+\}/g, '99'),
      has ? { nonsense: true } : undefined,
      method === 'PATCH' ? { 'content-type': 'application/merge-patch+json' } : {},
    );

  for (const [who, person] of Object.entries(PEOPLE))
    it(`of ${who} are those of the description, call by call`, async () => {
      const token = await person.token(stage);
      let refused = 0;
      for (const { method, path, operation } of operations) {
        const names = namesOf(operation);
        if (names === undefined || operation.operationId === ENDS_ITSELF) continue;
        for (const site of path.includes('{site}') ? ['here', 'away'] : ['here']) {
          const answer = await tryIt(token, method, path, site, operation.requestBody !== undefined);
          const takesPassword = operation['x-needs-confirmation'] === true && !person.hasAccount;
          const status = expected(names, person, site === 'away') ?? (takesPassword ? 403 : undefined);
          const call = `${operation.operationId} at ${site} → ${answer.status} ${answer.id ?? ''}`;
          if (status === undefined) {
            expect(answer.status, call).not.to.be.oneOf([401, 403, 500]);
            expect(answer.id, call).not.to.equal('no-such-site');
          } else {
            refused++;
            expect(answer.status, call).to.equal(status);
            if (status === 404) expect(answer.id, call).to.equal('no-such-site');
          }
        }
      }
      if (person.installation.length < 4) expect(refused).to.be.above(10);
      else expect(refused).to.equal(0);
    });

  it('of nobody are none, but for what a secret lets in', async () => {
    const open = [];
    for (const { method, path, operation } of operations) {
      const answer = await tryIt(undefined, method, path, 'here', operation.requestBody !== undefined);
      if (answer.status === 401) continue;
      expect(namesOf(operation), operation.operationId).to.equal(undefined);
      open.push(operation.operationId);
    }
    expect(open).to.have.members([
      'signIn',
      'listLanguages',
      'beginPasskeySignIn',
      'signInWithPasskey',
      'showSignInWays',
      'beginIdentitySignIn',
      'signInWithIdentity',
      'openHandover',
      'tickHandover',
      'openApproval',
      'decideByLink',
      'openInvitation',
      'acceptInvitation',
    ]);
  });
});
