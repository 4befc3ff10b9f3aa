import { expect } from 'chai';
import {
  ApiError,
  UnreachableError,
  createClient,
  endpoints,
  fieldErrors,
  nearest,
  snapshot,
  toPointer,
} from '@pragmatica/contract';
import { isLocalhost, localhostLookup } from '@pragmatica/contract/node';
import { z } from 'zod';

describe('errors of fields', () => {
  const schema = z.strictObject({
    name: z.string(),
    colour: z.enum(['red', 'green']).default('red'),
    items: z.array(z.strictObject({ size: z.number(), label: z.string().optional() })).optional(),
  });
  const errorsOf = (value: unknown) => fieldErrors(schema.safeParse(value).error!, schema);

  it('point at the field with a JSON pointer (RFC 6901)', () => {
    expect(toPointer(['a/b', 0, 'c~d'])).to.equal('/a~1b/0/c~0d');
    expect(errorsOf({ name: 'x', items: [{ size: 1 }, { size: 'two' }] })).to.deep.equal([
      { pointer: '/items/1/size', detail: 'This must be a number.' },
    ]);
  });

  it('say what should be there, in our words, whatever is wrong', () => {
    const all = z.strictObject({
      text: z.string().min(1).max(1_000),
      key: z.string().regex(/^[a-z]+$/),
      share: z.int().min(1).max(50),
      pages: z.array(z.string()).min(2).max(3),
      colour: z.enum(['red', 'green']),
      format: z.literal('set/1'),
      at: z.iso.datetime(),
      place: z.union([z.string(), z.number()]),
      isOn: z.boolean(),
    });
    const words = (value: unknown) =>
      Object.fromEntries(
        fieldErrors(all.safeParse(value).error!, all).map(({ pointer, detail }) => [pointer, detail]),
      );
    expect(words({})['/text']).to.equal('This is required.');
    expect(words({})['/place']).to.equal('This is required.');
    expect(
      words({
        ...{ text: '', key: 'A', share: 51, pages: ['/'], colour: 'blue' },
        ...{ format: 'set/2', at: 'noon', place: [], isOn: 'yes' },
      }),
    ).to.deep.equal({
      '/text': 'Write something here.',
      '/key': 'This is not written in the form that belongs here.',
      '/share': 'Use 50 or less.',
      '/pages': 'List at least 2.',
      '/colour': 'Use one of these: red, green.',
      '/format': 'This must be set/1.',
      '/at': 'Write the time like 2027-03-31T09:00:00Z.',
      '/place': 'This has none of the forms that are possible here.',
      '/isOn': 'This must be true or false.',
    });
    const more = words({ text: 'x'.repeat(1_001), share: 0.5, pages: ['1', '2', '3', '4'], isOn: 1, at: 5 });
    expect(more['/text']).to.equal('Use at most 1,000 characters.');
    expect(more['/share']).to.equal('This must be a whole number.');
    expect(more['/pages']).to.equal('List at most 3.');
    expect(more['/at']).to.equal('This must be a text.');
  });

  it('name the nearest key that is known at that place', () => {
    expect(errorsOf({ nmae: 'x' })).to.deep.include({
      pointer: '/nmae',
      detail: 'There is no "nmae" here. Did you mean "name"?',
    });
    expect(errorsOf({ name: 'x', items: [{ size: 1, lable: '' }] })[0]!.detail).to.include(
      'Did you mean "label"?',
    );
    expect(errorsOf({ name: 'x', entirely: 1 })[0]!.detail).to.include('Known are: name, colour, items.');
  });

  it('say when something is missing', () => {
    expect(errorsOf({})).to.deep.equal([{ pointer: '/name', detail: 'This is required.' }]);
  });

  it('suggest only what is near enough to be meant', () => {
    expect(nearest('body-ned', ['body-start', 'body-end'])).to.equal('body-end');
    expect(nearest('zzzzzz', ['body-start', 'body-end'])).to.equal(undefined);
    expect(nearest('anything', [])).to.equal(undefined);
  });
});

describe('the typed client', () => {
  interface Seen {
    url: string;
    init: RequestInit & { headers: Record<string, string> };
  }

  function clientWith(answer: () => Response | Promise<Response>) {
    const seen: Seen[] = [];
    const fetchInstead = (async (url: string, init: Seen['init']) => {
      seen.push({ url, init });
      return answer();
    }) as unknown as typeof fetch;
    return {
      seen,
      client: createClient({ server: 'http://service.test/', token: 'secret', fetch: fetchInstead }),
    };
  }
  const json = (value: unknown, init: ResponseInit = {}): Response =>
    new Response(JSON.stringify(value), init);

  it('makes the request from the endpoint: method, address, query, headers, body', async () => {
    const { seen, client } = clientWith(() => json({ from: 'a', to: 'b', changes: [] }));
    await client.call('showDiff', { params: { site: 'a b/c' }, query: { from: '1' } });
    expect(seen[0]!.url).to.equal('http://service.test/api/v1/sites/a%20b%2Fc/diff?from=1');
    expect(seen[0]!.init).to.include({ method: 'GET' });
    expect(seen[0]!.init.headers).to.include({ authorization: 'Bearer secret' });
    const patch = clientWith(() => json({}, { status: 500 }));
    await patch.client
      .call('editSnippet', { params: { site: 's', snippet: 'x' }, ifMatch: '"1"', body: { note: 'n' } })
      .catch(() => undefined);
    expect(patch.seen[0]!.init.headers).to.include({
      'if-match': '"1"',
      'content-type': 'application/merge-patch+json',
    });
    expect(patch.seen[0]!.init.body).to.equal('{"note":"n"}');
  });

  it('returns what the service said with its entity tag, and nothing that the contract does not know', async () => {
    const body = {
      login: 'a',
      name: 'A',
      mustChangePassword: false,
      hasPassword: true,
      role: null,
      mail: null,
      language: null,
      extra: 1,
    };
    const { client } = clientWith(() => json(body, { headers: { etag: '"v"' } }));
    expect(await client.call('showSession', {})).to.deep.equal({
      data: {
        ...{ login: 'a', name: 'A', mustChangePassword: false, hasPassword: true, role: null },
        ...{ mail: null, language: null },
      },
      etag: '"v"',
    });
  });

  it('throws the service’s problem as it is', async () => {
    const problem = {
      type: 'urn:x',
      title: 'No',
      status: 412,
      detail: 'Somebody changed it.',
      changedBy: 'ada',
    };
    const { client } = clientWith(() => json(problem, { status: 412 }));
    const error = await client.call('showSession', {}).catch((thrown: unknown) => thrown);
    expect(error).to.be.instanceOf(ApiError);
    expect((error as ApiError).problem).to.deep.equal(problem);
  });

  it('tells a service that is not there from one that says no', async () => {
    for (const answer of [
      () => Promise.reject(new TypeError('refused')),
      () => new Response('<html>', { status: 502 }),
      () => new Response('not json'),
    ]) {
      const error = await clientWith(answer)
        .client.call('showSession', {})
        .catch((thrown: unknown) => thrown);
      expect(error).to.be.instanceOf(UnreachableError);
    }
  });

  it('reads a stream of events line by line, however it is cut', async () => {
    const events = [
      {
        ...{ type: 'start', total: 1, release: 1, address: 'http://é.example' },
        ...{ host: 'é.example', delivery: 'line' },
      },
      { type: 'done', counts: { pages: 1, unreachable: 0, parts: 0, delivered: 0 } },
    ];
    const bytes = new TextEncoder().encode(events.map((event) => JSON.stringify(event)).join('\n'));
    const body = new ReadableStream<Uint8Array>({
      start(controller) {
        for (const byte of bytes) controller.enqueue(Uint8Array.of(byte));
        controller.close();
      },
    });
    const got: unknown[] = [];
    for await (const event of clientWith(() => new Response(body)).client.stream('verify', {
      params: { site: 's' },
      body: {},
    }))
      got.push(event);
    expect(got).to.deep.equal(events);
  });
});

describe('the contract', () => {
  it('asks for If-Match on every change of something that has a state', () => {
    const without = Object.entries(endpoints).filter(
      ([, endpoint]) => ['PATCH', 'PUT', 'DELETE'].includes(endpoint.method) && !('needsIfMatch' in endpoint),
    );
    expect(without.map(([name]) => name)).to.deep.equal([
      // Says of oneself where mails go, whatever was said before.
      'editAccount',
      'signOut',
      'changePassword',
      // Say of oneself how one signs in, and with what, whatever it was before.
      'enableSecondFactor',
      'removeSecondFactor',
      // What they end has no state but being there.
      'endSession',
      'endOtherSessions',
      'removeToken',
      'removePasskey',
      'removeIdentity',
      // Say of one person what they may from now on, whatever it was before, or that they are gone.
      'editMember',
      'removeMember',
      'setSiteRole',
      'removeSiteRole',
      'endInvitation',
      // Replace as a whole what nobody is shown.
      'giveAccess',
      'forgetAccess',
      'removeWaiver',
      // Its words are one person’s; whether it is done is said, whatever it was before.
      'editComment',
      'removeComment',
      'setApprovalRule',
      'withdrawApproval',
      // Adds to what waits to be read.
      'givePages',
      // Says as a whole when surveys of a host begin, whatever was said before.
      'setSchedule',
      'endSchedule',
      // Says of one sighting whether it is left alone, whatever it was before.
      'ignoreSighting',
      'heedSighting',
      // Says as a whole when backups are made, whatever was said before.
      'setBackupRule',
      // What it ends has no state but being there.
      'removeBackup',
      // What it ends has no state but being there.
      'removeWebhook',
      // Say as a whole what somebody has seen in a site builder, whatever was said before.
      'setBoxes',
      'tickBlock',
      // What it ends has no state but being there.
      'endHandover',
      'setPolicy',
      'clearPolicyReports',
      // Says of one step whether it is done, whatever it was before.
      'tickStep',
    ]);
  });

  it('lets nobody in but for signing in, in which language, and with a link', () => {
    expect(
      Object.entries(endpoints)
        .filter(([, { needs }]) => needs === 'nothing')
        .map(([name]) => name),
    ).to.deep.equal([
      'signIn',
      'listLanguages',
      'beginPasskeySignIn',
      'signInWithPasskey',
      'showSignInWays',
      'beginIdentitySignIn',
      'signInWithIdentity',
      'openInvitation',
      'acceptInvitation',
      'openApproval',
      'decideByLink',
      'openHandover',
      'tickHandover',
    ]);
  });

  it('reads a snippet set with what may be left out filled in', () => {
    const parsed = snapshot.parse({
      format: 'pragmatica-set/1',
      site: { key: 's', name: 'S', timeZone: 'UTC' },
      snippets: [{ key: 'a', name: 'A', parts: [] }],
    });
    expect(parsed.snippets[0]).to.deep.equal({
      key: 'a',
      name: 'A',
      purpose: '',
      provider: '',
      note: '',
      state: 'on',
      pages: { include: [], exclude: [] },
      parts: [],
    });
    expect(snapshot.safeParse({ ...parsed, format: 'other' }).success).to.equal(false);
  });
});

describe('names below .localhost', () => {
  it('are loopback for our clients (RFC 6761, 6.3), and only they', async () => {
    for (const name of ['localhost', 'a.localhost', 'A.B.LocalHost', 'x.localhost.'])
      expect(isLocalhost(name), name).to.equal(true);
    for (const name of ['localhost.example', 'notlocalhost', 'a.localhosts'])
      expect(isLocalhost(name), name).to.equal(false);
    const one = await new Promise((resolve) =>
      localhostLookup('a.b.localhost', {}, (_error, address, family) => resolve([address, family])),
    );
    expect(one).to.deep.equal(['127.0.0.1', 4]);
    const all = await new Promise((resolve) =>
      localhostLookup('a.b.localhost', { all: true }, (_error, addresses) => resolve(addresses)),
    );
    expect(all).to.deep.equal([{ address: '127.0.0.1', family: 4 }]);
  });
});
