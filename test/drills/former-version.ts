import { join } from 'node:path';
import { expect } from 'chai';
import { api, eventually, send } from '../support/http.js';
import { startProcess, type RunningProcess } from '../support/service-process.js';
import { ADMIN, createDatabase, stageEnvironment } from '../support/stage.js';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';

const FORMER = process.env['FORMER_ROOT'] ?? '';
const SITE = '/sites/mill';
const partsOf = (key: string) => [{ placement: 'head-end', code: `<meta name="drill-${key}" content="1">` }];

describe('the former version beside this one', function () {
  this.timeout(240_000);
  let folder: string;
  let environment: Record<string, string>;
  let now: RunningProcess;
  let former: RunningProcess;
  let token: string;

  before(async () => {
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-versions-'));
    environment = { ...stageEnvironment(folder), DATABASE_URL: await createDatabase('versions') };
    // As an update goes: the former version is at work, and this one starts beside it.
    former = await startProcess('main.js', environment, FORMER);
    const signedIn = await api(former.address, undefined, 'POST', '/sign-in', {
      ...{ login: 'admin', password: former.password },
      ...{ newPassword: ADMIN.password, as: 'token' },
    });
    token = String(signedIn.json['token']);
    await call(former, 'POST', '/sites', { key: 'mill', name: 'Tide Mill' });
    await call(former, 'POST', `${SITE}/snippets`, {
      key: 'before',
      name: 'Before',
      parts: partsOf('before'),
    });
    now = await startProcess('main.js', environment);
  });
  after(async () => {
    await former.kill();
    await now.kill();
    rmSync(folder, { recursive: true, force: true });
  });

  async function call(
    { address }: RunningProcess,
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Record<string, unknown>> {
    const answer = await api(address, token, method, path, body, headers);
    expect(answer.status, `${method} ${path}: ${answer.text}`).to.be.within(200, 299);
    return answer.json;
  }
  const any = { 'if-match': '*' };
  const patch = { ...any, 'content-type': 'application/merge-patch+json' };

  it('goes on with all that it does', async () => {
    for (const [index, service] of [former, now, former, now].entries()) {
      const key = `beside-${index}`;
      await call(service, 'POST', `${SITE}/snippets`, { key, name: `Beside ${index}`, parts: partsOf(key) });
      const other = service === former ? now : former;
      await call(other, 'PATCH', `${SITE}/snippets/${key}`, JSON.stringify({ note: `note ${index}` }), patch);
      const release = await call(service, 'POST', `${SITE}/releases`, { message: `release ${index}` }, any);
      expect(release['number']).to.equal(index + 1);
      const shown = await call(other, 'GET', `${SITE}/snippets/${key}`);
      expect(shown['note']).to.equal(`note ${index}`);
    }
    for (const path of [
      '/sites',
      '/members',
      '/activity',
      '/recipes',
      SITE,
      `${SITE}/releases`,
      `${SITE}/findings`,
    ])
      for (const service of [former, now]) await call(service, 'GET', path);
  });

  it('signs people in and out, by what either has made', async () => {
    const invited = await call(now, 'POST', '/invitations', { name: 'Orla', role: 'edit', sites: [] });
    const secret = String(invited['path']).split('#')[1];
    const person = { login: 'orla', name: 'Orla', password: 'a password of her own' };
    await call(former, 'POST', '/invitation/accepted', { secret, ...person });
    for (const { address } of [now, former]) {
      const body = { login: 'orla', password: person.password, as: 'token' };
      expect((await api(address, undefined, 'POST', '/sign-in', body)).status).to.equal(200);
    }
  });

  it('keeps one trail, whole in the eyes of both', async () => {
    for (const { address } of [former, now]) {
      const port = Number(new URL(address).port);
      const headers = { authorization: `Bearer ${token}`, accept: 'text/event-stream' };
      await eventually(async () => {
        const { text } = await send({ port, path: '/api/v1/activity/verification', headers });
        expect(text).to.match(/"isWhole":true/);
      });
    }
  });

  it('starts again on the new schema, when an update is taken back', async () => {
    await now.kill();
    await former.kill();
    former = await startProcess('main.js', environment, FORMER);
    await call(former, 'POST', `${SITE}/snippets`, { key: 'back', name: 'Back', parts: partsOf('back') });
    await call(former, 'POST', `${SITE}/releases`, { message: 'taken back' }, any);
    now = await startProcess('main.js', environment);
    const { items } = await call(now, 'GET', `${SITE}/releases`);
    expect(items).to.have.length(5);
  });
});
