import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { createServer, type Server } from 'node:http';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { Readers } from '../../packages/server/dist/reading/readers.js';
import { pino } from 'pino';
import { HOSTILE_CODE } from '../support/hostile-code.js';
import { api, eventually } from '../support/http.js';
import { listen, startStage, type Stage } from '../support/stage.js';

const MAX_CODE_LENGTH = 200_000;

describe('the service while hostile code is pasted', function () {
  this.timeout(240_000);
  let stage: Stage;
  before(async () => (stage = await startStage()));
  after(() => stage.close());

  it('answers every paste, none with a 5xx, and others at once meanwhile', async () => {
    const state = { isOver: false };
    const waits: number[] = [];
    const others = (async () => {
      while (!state.isOver) {
        const begin = performance.now();
        const answer = await api(stage.server, stage.token, 'GET', '/sites/skerrywick/order');
        expect(answer.status).to.equal(200);
        waits.push(performance.now() - begin);
        await new Promise((resolve) => setTimeout(resolve, 20));
      }
    })();
    for (const [name, code] of Object.entries(HOSTILE_CODE)) {
      const statement = code.slice(0, 2_000);
      const answer = await api(stage.server, stage.token, 'POST', '/read', { code, statement });
      expect(answer.status, `${name}: ${answer.text.slice(0, 200)}`).to.be.below(500);
    }
    state.isOver = true;
    await others;
    waits.sort((a, b) => a - b);
    // The event loop was never held up by a paste: what one of them takes is seconds.
    expect(waits[Math.floor(waits.length * 0.95)]).to.be.below(1_000);
  });

  it('keeps them in drafts without a list that breaks, and says what could not be read', async () => {
    const params = { site: 'skerrywick' };
    const bad = ['template literals 1,000 deep', '12,000 nested div', 'a text doubled fifty times'];
    for (const [index, name] of bad.entries()) {
      const code = HOSTILE_CODE[name]!.slice(0, MAX_CODE_LENGTH);
      await stage.client.call('createSnippet', {
        params,
        body: { key: `bad-${index}`, name, parts: [{ placement: 'body-end', code }] },
      });
    }
    for (const path of ['/sites', '/sites/skerrywick/findings', '/sites/skerrywick/order/report', '/recipes'])
      expect((await api(stage.server, stage.token, 'GET', path)).status, path).to.equal(200);
    const { data } = await stage.client.call('listFindings', { params, query: { check: 'unread-code' } });
    expect(data.items.map(({ subjects }) => subjects[0]!.snippet)).to.include.members(['bad-0', 'bad-1']);
    const published = await api(
      stage.server,
      stage.token,
      'POST',
      '/sites/skerrywick/releases',
      { message: 'bad', force: 'try' },
      { 'if-match': '*' },
    );
    expect(published.status).to.equal(422);
    expect(published.json['type']).to.equal('urn:pragmatica:problem:not-contained');
  });

  it('refuses days that no calendar reaches, at their place', async () => {
    const answer = await api(
      stage.server,
      stage.token,
      'PATCH',
      '/sites/skerrywick/snippets/harbour-chat',
      { limits: { hours: { last: '9999-12-31' } } },
      { 'if-match': '*' },
    );
    expect(answer.status).to.equal(422);
    expect((answer.json['errors'] as { pointer: string }[])[0]!.pointer).to.equal('/limits/hours/last');
  });
});

describe('a sitemap', function () {
  this.timeout(120_000);
  let stage: Stage;
  const servers: Server[] = [];
  before(async () => (stage = await startStage({ hasDemo: false })));
  after(async () => {
    for (const server of servers) server.close();
    await stage.close();
  });

  it('without end is read up to the limit and no further', async () => {
    let sent = 0;
    let wasCut = false;
    const server = createServer((request, response) => {
      if (request.url !== '/sitemap.xml') {
        response.writeHead(404).end();
        return;
      }
      response.on('close', () => (wasCut = !response.writableFinished));
      response.writeHead(200, { 'content-type': 'application/xml' });
      response.write('<?xml version="1.0"?><urlset>');
      const more = (): void => {
        while (!response.destroyed && sent < 600_000) {
          const chunk = Array.from({ length: 500 }, () => `<url><loc>http://a.test/p/${sent++}</loc></url>`);
          if (!response.write(chunk.join(''))) {
            response.once('drain', more);
            return;
          }
        }
        if (!response.destroyed) response.end('</urlset>');
      };
      more();
    });
    servers.push(server);
    const { port } = await listen(server);
    await stage.client.call('createSite', {
      body: {
        key: 'endless',
        name: 'Endless',
        timeZone: 'UTC',
        hosts: [
          {
            host: 'endless.localhost',
            environment: 'live',
            origin: `http://127.0.0.1:${port}`,
            address: null,
          },
        ],
      },
    });
    const { data } = await stage.client.call('listPages', { params: { site: 'endless' }, query: {} });
    expect(data.source).to.equal('sitemap');
    expect(data.paths).to.have.length(10_000);
    await eventually(() => expect(wasCut).to.equal(true));
    expect(sent).to.be.below(200_000);
  });
});

describe('the readers', function () {
  this.timeout(60_000);

  it('give up a code that takes too long, remember it, and finish the task without it', async () => {
    // Half a megabyte of links that close each other takes its time in any parser.
    const slow = HOSTILE_CODE['links that close each other']!.repeat(2);
    const readers = new Readers(pino({ level: 'silent' }), { codeMs: 60, threads: 1 });
    try {
      const read = () => readers.run('read', { code: slow, recipes: [], edition: '' });
      const { facts } = await read();
      expect(facts.problems.map(({ kind, message }) => [kind, message])).to.deep.equal([
        ['unread', 'This code could not be read: it took longer than 0.06 seconds.'],
      ]);
      const begin = performance.now();
      await read();
      expect(performance.now() - begin, 'the second time').to.be.below(2_000);
      const other = await readers.run('read', {
        code: '<script>window.a=1</script>',
        recipes: [],
        edition: '',
      });
      expect(other.facts.defines.map(({ name }) => name)).to.deep.equal(['a']);
    } finally {
      await readers.close();
    }
  });

  it('may be ended at any moment, also while they start', async () => {
    const program = fileURLToPath(new URL('../support/ended-readers.mjs', import.meta.url));
    const child = spawn(process.execPath, [program], { stdio: ['ignore', 'ignore', 'pipe'] });
    let said = '';
    child.stderr.on('data', (data) => (said += String(data)));
    const [code] = (await once(child, 'exit')) as [number | null];
    expect(code, said).to.equal(0);
  });
});
