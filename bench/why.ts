import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { median } from './median.js';
import { startService } from './service.js';

const SITE = 'why';
const HOST = `${SITE}.localhost`;
const PROVIDERS = 10;
const QUESTIONS = 30;
const VISITS = 10;

const PAGE = `<!doctype html><html><head><title>Quay</title></head><body>${'<p>Between three islands, <a href="/x">every day</a>.</p>'.repeat(100)}</body></html>`;

/**
 * How long the answer to “why doesn’t it show?” takes, from the question to the last word, over the network interface: where settings
 * tell (a snippet that is off), and where somebody has to go and look (one that works, one whose file is gone).
 */
export async function measureWhy(): Promise<void> {
  const pages = createServer((request, response) => {
    const { url = '/' } = request;
    if (url.startsWith('/p.js'))
      response
        .writeHead(200, { 'content-type': 'text/javascript' })
        .end(`new Image().src='http://${request.headers.host}/hit?'+Math.random()`);
    else if (url.startsWith('/hit')) response.writeHead(204).end();
    else if (url === '/') response.writeHead(200, { 'content-type': 'text/html' }).end(PAGE);
    else response.writeHead(404).end();
  }).listen(0, '127.0.0.1');
  const { port } = await new Promise<AddressInfo>((resolve) => {
    pages.on('listening', () => resolve(pages.address() as AddressInfo));
  });
  const { client, gatewayPort, stop } = await startService({}, { hasWorker: true });
  const params = { site: SITE };
  const origin = `http://127.0.0.1:${port}`;
  const address = `http://${HOST}:${gatewayPort}`;
  await client.call('createSite', {
    body: { key: SITE, name: 'Quay', hosts: [{ host: HOST, environment: 'live', origin, address }] },
  });
  const add = async (key: string, file: string, state: 'on' | 'off' = 'on'): Promise<void> => {
    const code = `<script async src="http://${key}.localhost:${port}/${file}"></script>`;
    await client.call('createSnippet', {
      params,
      body: { key, name: key, state, parts: [{ placement: 'body-end', code }] },
    });
  };
  for (let index = 0; index < PROVIDERS; index++) await add(`provider-${index}`, 'p.js');
  await add('gone', 'gone.js');
  await add('off', 'p.js', 'off');
  await client.call('publish', { params, ifMatch: '*', body: { message: 'Measured', force: 'measuring' } });

  /** Milliseconds, from the question to the end of the answer. */
  const ask = async (snippet: string): Promise<number> => {
    const began = performance.now();
    let last = '';
    for await (const event of client.stream('why', { params, body: { snippet, path: '/' } }))
      last = event.type;
    if ((snippet === 'off') !== (last === 'settings')) throw new Error(`${snippet}: answered by ${last}`);
    return performance.now() - began;
  };
  const askOften = async (count: number, snippet: string): Promise<string> => {
    await ask(snippet);
    const times: number[] = [];
    for (let done = 0; done < count; done++) times.push(await ask(snippet));
    return `${median(times).toFixed(0).padStart(7)} ${Math.max(...times)
      .toFixed(0)
      .padStart(9)}`;
  };
  console.log('\nwhy doesn’t it show? ms    p50   slowest');
  console.log(`from settings          ${await askOften(QUESTIONS, 'off')}`);
  console.log(`with a visit, all well ${await askOften(VISITS, 'provider-1')}`);
  console.log(`with a visit, one gone ${await askOften(VISITS, 'gone')}`);
  await stop();
  pages.closeAllConnections();
  pages.close();
}
