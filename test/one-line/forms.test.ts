import type { Placement } from '@pragmatica/core';
import { expect } from 'chai';
import type { Browser } from 'playwright-core';
import { startBrowser } from '../support/browser.js';
import { see, startLineSite, type Form, type LineSite, type Seen } from '../support/line-site.js';
import { part, set, snippet } from '../support/sets.js';

const file = (said: string, delay = 0, more = ''): string =>
  `<script${more} src="/files/${delay}/${said}.js"></script>`;
const inline = (said: string): string => `<script>(window.heard??=[]).push('${said}')</script>`;

/** A page that notes what runs, with its own scripts in head and body. */
const PAGE = `<!DOCTYPE html><html><head><!--line--><meta charset="utf-8"><title>t</title><script>NOTE
document.addEventListener('DOMContentLoaded',()=>note('ready'));addEventListener('load',()=>note('load'))</script>
<script>note('own head')</script></head><body><p>one</p><script>note('own body')</script><div id="box"><p>in the box</p></div><p>two</p><!--foot--></body></html>`;

interface Case {
  readonly what: string;
  readonly parts: readonly (readonly [Placement, string])[];
  /** What is heard in another order than when it stands there, by form; the same where left out. */
  readonly heard?: Partial<Record<Form, readonly string[]>>;
  /** What the elements come to differs, as the table says. */
  readonly isElsewhere?: boolean;
}

const CASES: readonly Case[] = [
  {
    what: 'inline scripts in the head',
    parts: [
      ['head-start', inline('a')],
      ['head-start', inline('b')],
    ],
  },
  {
    what: 'a blocking file in the head, and what needs it',
    parts: [
      ['head-start', file('lib', 60) + inline('uses lib')],
      ['head-start', inline('after')],
    ],
  },
  {
    what: 'promises between inline scripts of the head',
    parts: [
      ['head-start', `<script>Promise.resolve().then(()=>heard.push('promise'));window.heard??=[]</script>`],
      ['head-start', inline('next')],
    ],
  },
  {
    what: 'at the start of the body, before the page’s own',
    parts: [['body-start', `<div class="bar">bar</div>${inline('body start')}`]],
  },
  { what: 'at the end of the body, before it is ready', parts: [['body-end', `<i>end</i>${inline('end')}`]] },
  {
    what: 'a file at the end of the body and what needs it, before the page is ready',
    parts: [
      ['body-end', file('lib', 40) + inline('uses lib')],
      ['body-end', inline('last')],
    ],
  },
  {
    what: 'deferred files and modules at the end of the body',
    parts: [
      ['body-end', file('deferred', 30, ' defer') + inline('inline')],
      ['body-end', `<script type="module">note('module')</script>`],
    ],
  },
  {
    what: 'inside and before an element',
    parts: [
      [{ anchor: 'box', side: 'inside' }, `<b>inside</b>${inline('inside')}`],
      [{ anchor: 'box', side: 'before' }, `<b>before</b>${inline('before')}`],
    ],
  },
  {
    what: 'markup that is not run',
    parts: [
      ['body-end', `<noscript><img src="/files/pixel.js"></noscript><template>${inline('never')}</template>`],
    ],
  },
  {
    what: 'a script that fails, and the one behind it',
    parts: [['body-end', `<script>throw new Error('own fault')</script>${inline('goes on')}`]],
  },
  {
    what: 'a file that is not there, and what is behind it',
    parts: [['body-end', `<script src="/gone"></script>${inline('goes on')}`]],
  },
  {
    what: 'document.write at the end of the body',
    parts: [
      [
        'body-end',
        `<script>document.write('<u>wri');document.write('tten</u><script>note("written")<\\/script>')</script>${inline('behind')}`,
      ],
    ],
  },
  {
    what: 'a file that writes',
    parts: [
      [
        'body-end',
        `<script src="/files/w.js?run=document.write('%3Cu%3Ewritten%3C/u%3E')"></script>${inline('behind')}`,
      ],
    ],
  },
  {
    what: 'what waits for the page to be ready',
    parts: [
      [
        'body-end',
        `<script>document.addEventListener('DOMContentLoaded',()=>note('heard ready'));window.addEventListener('load',()=>note('heard load'))</script>`,
      ],
    ],
  },
  {
    what: 'a declared shadow root',
    parts: [
      [
        'body-end',
        `<div id="host"><template shadowrootmode="open"><b>shadow</b></template></div><script>note(String(!!document.getElementById('host').shadowRoot))</script>`,
      ],
    ],
  },
  { what: 'a script in a drawing', parts: [['body-end', `<svg><script>note('drawn')</script></svg>`]] },
  {
    what: 'its own element before it',
    parts: [
      [
        'body-end',
        `<em id="own"></em><script>note(document.currentScript.previousElementSibling.id)</script>`,
      ],
    ],
  },
  {
    what: 'data that is no script',
    parts: [['body-end', `<script type="application/json">{"a":1}</script>${inline('behind')}`]],
  },
];

describe('the one line', function () {
  this.timeout(60_000);
  let browser: Browser;
  let site: LineSite;

  before(async () => {
    browser = await startBrowser();
    site = await startLineSite();
  });

  after(async () => {
    site.close();
    await browser.close();
  });

  function use(parts: Case['parts'], more: Partial<Parameters<LineSite['use']>[0]> = {}): void {
    const snippets = parts.map(([placement, code], i) =>
      snippet(`s${i}`, { parts: [part(placement, i, code)] }),
    );
    site.use({ snapshot: set(...snippets), pages: { '/': PAGE }, ...more });
  }
  const seen = (form: Form): Promise<Seen> => see(browser, `http://localhost:${site.port}/${form}/`);

  const ORDERLESS = new Set(['own head', 'own body', 'ready', 'load']);

  describe('in order gives the page what it would have if its parts stood there:', () => {
    for (const { what, parts } of CASES)
      it(what, async () => {
        use(parts);
        const [standing, order] = [await seen('standing'), await seen('order')];
        expect(order.heard).to.deep.equal(standing.heard);
        expect(order.html).to.equal(standing.html);
        expect(order.errors).to.deep.equal(standing.errors);
      });
  });

  describe('without waiting, and at the foot of the page, runs the same parts in their order:', () => {
    for (const form of ['async', 'foot'] as const)
      for (const { what, parts } of CASES)
        it(`${what} (${form})`, async () => {
          use(parts);
          const [standing, loose] = [await seen('standing'), await seen(form)];
          const own = ({ heard }: Seen): string[] => heard.filter((one) => !ORDERLESS.has(one));
          expect([...own(loose)].sort()).to.deep.equal([...own(standing)].sort());
          if (!what.includes('promises') && !what.includes('deferred'))
            expect(own(loose)).to.deep.equal(own(standing));
          expect(loose.html).to.equal(standing.html);
        });
  });
});
