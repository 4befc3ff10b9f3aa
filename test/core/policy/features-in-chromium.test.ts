import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { PermissionsPolicy, headerPolicies, exampleKnowledge, exampleSet, runChecks } from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import type { Browser } from 'playwright-core';
import { startBrowser } from '../../support/browser.js';

const FEATURES = ['camera', 'geolocation', 'microphone', 'fullscreen', 'payment', 'usb'];
/** Stands in the headers for the port of the other hosts. */
const PORT = '8080';
const OTHERS = ['http://tide.localhost:8080', 'http://maps.tide.localhost:8080', 'http://127.0.0.1:8080'];

/** Headers as people write them, right and wrong. */
const header = fc
  .array(
    fc.record({
      feature: fc.constantFrom(...FEATURES),
      list: fc.oneof(
        fc.constantFrom(
          '()',
          '*',
          'self',
          '(self)',
          '(*)',
          '("none")',
          'none',
          '(none)',
          '1',
          '?0',
          '("self")',
          '(self',
        ),
        fc
          .array(
            fc.constantFrom('self', '"http://*.tide.localhost:8080"', ...OTHERS.map((one) => `"${one}"`)),
            {
              maxLength: 3,
            },
          )
          .map((items) => `(${items.join(' ')})`),
      ),
    }),
    { minLength: 1, maxLength: 4 },
  )
  .map((entries) => entries.map(({ feature, list }) => `${feature}=${list}`).join(', '));
const HEADERS = [
  ...fc.sample(header, { numRuns: 60, seed: 4 }),
  'camera',
  "camera 'none'; geolocation *",
  'camera=(), ',
  'camera=();report-to=c, usb=(self);a',
  'Camera=()',
  'camera=()  ,\tusb=()',
  'nonsense=(), camera=()',
];

/** As the browser has it; the standard's own name for it is not there yet. */
interface Featured extends Document {
  readonly featurePolicy: { allowsFeature: (feature: string) => boolean };
}

describe('what a page lets code do, held against a browser', function () {
  this.timeout(120_000);
  let browser: Browser;
  let site: Server;
  let other: Server;
  let siteAt = '';
  let otherAt = '';

  before(async () => {
    browser = await startBrowser();
    site = createServer((request, response) => {
      const { searchParams } = new URL(request.url!, siteAt);
      response.setHeader('content-type', 'text/html');
      for (const name of ['permissions-policy', 'cross-origin-embedder-policy'])
        if (searchParams.has(name)) response.setHeader(name, searchParams.get(name)!);
      response.end(`<!doctype html><title>t</title><body>${searchParams.get('body') ?? ''}</body>`);
    });
    // It lets whoever asks by CORS read its files, and says nothing to others.
    other = createServer((request, response) => {
      const isFrame = request.url === '/frame';
      response.setHeader('access-control-allow-origin', '*');
      response.setHeader('content-type', isFrame ? 'text/html' : 'text/javascript');
      response.end(isFrame ? '<p>Frame</p>' : 'globalThis.came = true;');
    });
    siteAt = await listen(site);
    otherAt = await listen(other);
  });
  after(async () => {
    await browser.close();
    site.close();
    other.close();
  });

  const at = (params: Record<string, string>): string => `${siteAt}/?${String(new URLSearchParams(params))}`;

  it('reads the header as the browser does', async () => {
    const page = await browser.newPage();
    let forbidden = 0;
    const port = new URL(otherAt).port;
    const others = OTHERS.map((origin) => origin.replace(PORT, port));
    const body = others
      .map((origin) => `<iframe src="${origin}/frame" allow="${FEATURES.join('; ')}"></iframe>`)
      .join('');
    for (const value of HEADERS.map((one) => one.replaceAll(PORT, port))) {
      await page.goto(at({ 'permissions-policy': value, body }), { waitUntil: 'load' });
      const frames = page.frames().slice(1);
      expect(frames.map((frame) => new URL(frame.url()).origin)).to.deep.equal(others);
      const theirs = await Promise.all(
        page
          .frames()
          .map((frame) =>
            frame.evaluate(
              (features) =>
                features.filter((feature) => (document as Featured).featurePolicy.allowsFeature(feature)),
              FEATURES,
            ),
          ),
      );
      const policy = new PermissionsPolicy(
        headerPolicies({ 'permissions-policy': value }).permissionsPolicy ?? '',
      );
      const ours = [siteAt, ...others].map((origin) =>
        FEATURES.filter((feature) => policy.allows(feature, origin, siteAt)),
      );
      forbidden += 4 * FEATURES.length - ours.flat().length;
      expect(ours, value).to.deep.equal(theirs);
    }
    expect(forbidden).to.be.greaterThan(100);
  });

  const TAGS = (file: string): readonly string[] => [
    `<script src="${file}"></script>`,
    `<script src="${file}" crossorigin></script>`,
    `<script src="${file}" type="module"></script>`,
    `<script>var s = document.createElement('script'); s.src = '${file}'; document.body.append(s)</script>`,
    `<script>var s = document.createElement('script'); s.src = '${file}'; s.crossOrigin = 'anonymous'; document.body.append(s)</script>`,
  ];

  for (const value of [
    'require-corp',
    'credentialless',
    'unsafe-none',
    'require-corp; report-to="x"',
    '"require-corp"',
    '',
  ])
    it(`names the scripts that “${value}” keeps out`, async () => {
      const page = await browser.newPage();
      const headers = { 'cross-origin-embedder-policy': value };
      for (const code of TAGS(`${otherAt}/a.js`)) {
        await page.goto(at({ ...headers, body: code }), { waitUntil: 'networkidle' });
        const came = await page.evaluate(() => 'came' in globalThis);
        const set = exampleSet([{ name: 'Chat', parts: [{ placement: 'body-end', code }] }]);
        const pages = { '/': '<!doctype html><title>t</title><body></body>' };
        const found = runChecks(set, exampleKnowledge({ pages, headers }, set));
        expect(
          found.some(({ check }) => check === 'isolated-page'),
          code,
        ).to.equal(!came);
      }
    });
});

async function listen(server: Server): Promise<string> {
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}
