import { randomBytes } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SealError, SecretBox, openSecretBox } from '@pragmatica/server';
import { expect } from 'chai';
import pg from 'pg';
import { startStage, type Stage } from '../support/stage.js';
import {
  addSite,
  linking,
  outcomes,
  ownSite,
  survey,
  type Answer,
  type OwnSite,
} from '../support/surveys.js';

describe('a host that is not public', function () {
  this.timeout(60_000);
  let stage: Stage;
  let closed: OwnSite;
  const PASSWORD = 'lee shore: 42';
  const locked =
    (html: string): Answer =>
    (request, response) => {
      const isIn =
        request.headers.authorization === `Basic ${Buffer.from(`editor:${PASSWORD}`).toString('base64')}` ||
        request.headers['x-preview'] === 'open-7' ||
        request.headers.cookie === 'preview=crumb-9';
      if (isIn) response.writeHead(200, { 'content-type': 'text/html' }).end(html);
      else response.writeHead(401, { 'www-authenticate': 'Basic realm="staging"' }).end();
    };

  before(async () => {
    stage = await startStage({ hasDemo: false, hasWorker: true });
    closed = await ownSite({ '/': locked(linking('/a')), '/a': locked('<p>x</p>') });
    await addSite(stage, 'closed', closed.port);
  });

  after(async () => {
    closed.close();
    await stage.close();
  });

  const params = { site: 'closed', host: 'closed.localhost' };
  const give = (body: object) => stage.client.call('giveAccess', { params, body: body as never });

  it('lets no survey in at first', async () => {
    const done = await survey(stage, 'closed');
    expect(done).to.include({ visited: 1, failed: 1 });
    expect(await outcomes(stage, 'closed')).to.deep.equal({ '/': 'error' });
  });

  for (const [what, secret] of [
    ['a name and a password', { kind: 'basic', name: 'editor', value: PASSWORD }],
    ['a header', { kind: 'header', name: 'X-Preview', value: 'open-7' }],
    ['a cookie', { kind: 'cookie', name: 'preview', value: 'crumb-9' }],
  ] as const)
    it(`lets it in with ${what}`, async () => {
      await give(secret);
      await survey(stage, 'closed');
      expect(await outcomes(stage, 'closed')).to.deep.equal({ '/': 'read', '/a': 'read' });
    });

  describe('and asks with a form', () => {
    const key = 'formed';
    const host = `${key}.localhost`;
    let formed: OwnSite;
    let password = PASSWORD;
    const form =
      '<form method="post" action="/enter"><input type="hidden" name="token" value="t7"><input name="user"><input type="password" name="pass"><button>Enter</button></form>';
    const html =
      (text: string, status = 200): Answer =>
      (_, response) =>
        response.writeHead(status, { 'content-type': 'text/html' }).end(text);
    const behind =
      (text: string): Answer =>
      (request, response) => {
        if (/(?:^|; )session=in-1(?:;|$)/.test(request.headers.cookie ?? '')) html(text)(request, response);
        else response.writeHead(302, { location: '/welcome' }).end();
      };

    before(async () => {
      formed = await ownSite({
        '/': behind(linking('/a')),
        '/a': behind('<p>x</p>'),
        '/welcome': html(form),
        '/enter': (request, response) => {
          let body = '';
          request.on('data', (chunk: Buffer) => (body += chunk.toString()));
          request.on('end', () => {
            const typed = new URLSearchParams(body);
            const isRight =
              typed.get('token') === 't7' && typed.get('user') === 'editor' && typed.get('pass') === password;
            if (!isRight) html(form)(request, response);
            else
              response
                .writeHead(303, {
                  location: '/',
                  'set-cookie': ['session=in-1; Path=/; HttpOnly', 'old=; Max-Age=0'],
                })
                .end();
          });
        },
      });
      await addSite(stage, key, formed.port);
    });

    after(() => formed.close());

    const store = (secret: object) =>
      stage.client.call('giveAccess', {
        params: { site: key, host },
        body: { kind: 'form', page: '/welcome', ...secret } as never,
      });

    it('that is filled in once, and its cookie sent with each page', async () => {
      await store({ name: 'editor', value: PASSWORD });
      await survey(stage, key);
      expect(await outcomes(stage, key)).to.include({ '/': 'read', '/a': 'read' });
      expect(formed.count('/enter')).to.equal(1);
    });

    it('and says why a survey failed where the password is wrong, or there is no form', async () => {
      password = 'another one';
      await store({ name: 'editor', value: 'stale' });
      const wrong = await survey(stage, key);
      expect(wrong.state).to.equal('failed');
      expect(wrong.problem).to.match(/^formed\.localhost asked for the password again/);
      await store({ name: 'editor', value: 'stale', page: '/nowhere' });
      expect((await survey(stage, key)).problem).to.match(/has no such form/);
    });
  });

  it('is told with who gave it and when, and never with the secret, by the API, the database or the activity', async () => {
    await give({ kind: 'basic', name: 'editor', value: PASSWORD });
    const { data } = await stage.client.call('listAccesses', { params: { site: 'closed' } });
    expect(data.items).to.have.length(1);
    expect(data.items[0]).to.include({ host: 'closed.localhost', kind: 'basic', by: 'admin' });
    expect(Object.keys(data.items[0]!)).to.have.members(['host', 'kind', 'by', 'at']);
    const database = new pg.Client({ connectionString: stage.databaseUrl });
    await database.connect();
    const { rows } = await database.query<{ row: string }>(
      `select row_to_json(h)::text as row from host_access h union all select row_to_json(a)::text from audit a`,
    );
    await database.end();
    const all = rows.map(({ row }) => row).join('\n');
    expect(all).to.include('Stored access to closed.localhost');
    expect(all).not.to.include('lee shore');
    expect(all).not.to.include(Buffer.from(PASSWORD).toString('base64'));
  });

  it('is the only one that gets it: pages elsewhere are not asked with it, nor is the same name of another site', async () => {
    const other = await ownSite({ '/': linking(`http://localhost:${closed.port}/a`) });
    await addSite(stage, 'other', other.port);
    await survey(stage, 'other');
    expect(other.asked.map(({ headers }) => headers.authorization)).to.deep.equal(
      other.asked.map(() => undefined),
    );
    other.close();
  });

  it('is forgotten when it is asked to be', async () => {
    await stage.client.call('forgetAccess', { params });
    await survey(stage, 'closed');
    expect(await outcomes(stage, 'closed')).to.include({ '/': 'error' });
    const again = await stage.client
      .call('forgetAccess', { params })
      .catch((error: unknown) => error as Error);
    expect((again as Error).message).to.equal('No access to closed.localhost is stored.');
  });

  for (const [what, secret, pointer] of [
    [
      'a value that would begin another header',
      { kind: 'header', name: 'x-a', value: 'a\r\nx-b: 1' },
      '/value',
    ],
    ['a header of the connection itself', { kind: 'header', name: 'Host', value: 'a' }, '/name'],
    ['a name with a colon', { kind: 'basic', name: 'a:b', value: 'c' }, '/name'],
    ['a cookie that would be two', { kind: 'cookie', name: 'a', value: 'b; c=d' }, '/value'],
  ] as const)
    it(`refuses ${what}, at its field`, async () => {
      const failure = await give(secret).catch((error: unknown) => error);
      expect(failure).to.have.nested.property('problem.errors[0].pointer', pointer);
    });

  it('has to be one of the site’s', async () => {
    const failure = await stage.client
      .call('giveAccess', {
        params: { site: 'closed', host: 'elsewhere.example' },
        body: { kind: 'header', name: 'x-a', value: 'b' },
      })
      .catch((error: unknown) => error as Error);
    expect((failure as Error).message).to.match(
      /has no host "elsewhere\.example"\. Its hosts: closed\.localhost/,
    );
  });
});

describe('what is sealed', () => {
  const box = new SecretBox(randomBytes(32));

  it('opens with the same key for the same purpose only', () => {
    const sealed = box.seal('Größe 7', 'host-access 1 a.example');
    expect(box.open(sealed, 'host-access 1 a.example')).to.equal('Größe 7');
    expect(() => box.open(sealed, 'host-access 2 a.example')).to.throw(SealError);
    expect(() => new SecretBox(randomBytes(32)).open(sealed, 'host-access 1 a.example')).to.throw(SealError);
    const damaged = Buffer.from(sealed, 'base64');
    damaged[damaged.length - 1]! ^= 1;
    expect(() => box.open(damaged.toString('base64'), 'host-access 1 a.example')).to.throw(SealError);
    for (const text of ['', 'AAAA', '%']) expect(() => box.open(text, 'x')).to.throw(SealError);
  });

  it('is another text each time', () => {
    expect(box.seal('same', 'x')).not.to.equal(box.seal('same', 'x'));
  });

  it('has its key in a file that nobody else may read, made once, or in a setting', () => {
    const folder = mkdtempSync(join(tmpdir(), 'pragmatica-key-'));
    const sealed = openSecretBox(undefined, folder).seal('secret', 'x');
    expect(openSecretBox(undefined, folder).open(sealed, 'x')).to.equal('secret');
    expect(statSync(join(folder, 'secret.key')).mode & 0o777).to.equal(0o600);
    const key = readFileSync(join(folder, 'secret.key'), 'utf8').trim();
    expect(openSecretBox(key, '/nowhere').open(sealed, 'x')).to.equal('secret');
    rmSync(folder, { recursive: true });
  });
});
