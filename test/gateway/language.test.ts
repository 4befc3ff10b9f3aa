import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { setTranslation, writtenTexts } from '@pragmatica/core';
import { expect } from 'chai';
import { startGateway, type StartedGateway } from '../support/gateway.js';
import { send } from '../support/http.js';
import { pseudoTranslation } from '../support/pseudo.js';
import { stageEnvironment, startStage } from '../support/stage.js';

const PROGRAM = fileURLToPath(new URL('../../packages/gateway/bin/pragmatica-gateway.js', import.meta.url));

describe('what the gateway answers itself', function () {
  this.timeout(60_000);
  const silent = createServer((request) => request.socket.destroy());
  let gateway: StartedGateway;
  before(async () => (gateway = await startGateway([silent])));
  after(() => gateway.close());
  afterEach(() => setTranslation(undefined));

  it('says what is wrong, and to whom it matters', async () => {
    const gone = await gateway.ask({ path: '/' });
    expect(gone.status).to.equal(502);
    expect(gone.text)
      .to.include('<html lang="en">')
      .and.include('The server of “mill.localhost” does not answer.')
      .and.include('If this is your site');
    const unknown = await gateway.ask({ host: 'other.localhost' });
    expect([unknown.status, unknown.text]).to.satisfy(
      ([status, text]: [number, string]) =>
        status === 421 && text.includes('No site is set up for the host') && text.includes('other.localhost'),
    );
  });

  it('is said in another language, with the language declared', async () => {
    setTranslation(pseudoTranslation(writtenTexts()));
    for (const request of [{ path: '/' }, { host: 'other.localhost' }]) {
      const { text } = await gateway.ask(request);
      expect(text).to.include('<html lang="en-x-pseudo">');
      // Tags, references and the host’s name are nobody’s words.
      const words = text
        .slice(text.indexOf('<h1>'))
        .replaceAll(/<\/?(?:h1|p|html)>|&#39;|(?:mill|other)\.localhost/g, '');
      expect(words).not.to.match(/[A-Za-z]/);
    }
  });

  it('is said in English, and pages go on, where the language cannot be used', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'pragmatica-language-'));
    const broken = join(folder, 'broken.json');
    writeFileSync(broken, '{');
    const stage = await startStage();
    let output = '';
    const child = spawn(process.execPath, [PROGRAM], {
      env: {
        ...process.env,
        ...stageEnvironment(folder),
        ...{
          DATABASE_URL: stage.databaseUrl,
          PRAGMATICA_GATEWAY_PROCESSES: '1',
          PRAGMATICA_LANGUAGE: broken,
        },
      },
      stdio: ['ignore', 'pipe', 'pipe', 'ipc'],
    });
    for (const stream of [child.stdout!, child.stderr!])
      stream.on('data', (text) => (output += String(text)));
    try {
      const ready = await new Promise<{ gatewayPort: number }>((resolve, reject) => {
        child.once('message', (message) => resolve(message as { gatewayPort: number }));
        child.once('exit', () => reject(new Error(output)));
      });
      const { status, text } = await send({ port: ready.gatewayPort, host: 'other.localhost' });
      expect([status, text.includes('This address is not set up')]).to.deep.equal([421, true]);
      expect(output).to.include('broken.json').and.include('The gateway says everything in English.');
    } finally {
      child.kill('SIGKILL');
      await stage.close();
      rmSync(folder, { recursive: true, force: true });
    }
  });
});
