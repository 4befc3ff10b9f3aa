import type { Placement } from '@pragmatica/core';
import { expect } from 'chai';
import type { Browser } from 'playwright-core';
import { see, useLineSite, type Form, type LineSite, type Seen } from '../support/line-site.js';
import { part, set, snippet } from '../support/sets.js';

const file = (said: string, delay = 0, more = ''): string =>
  `<script${more} src="/files/${delay}/${said}.js"></script>`;
const inline = (said: string): string => `<script>(window.heard??=[]).push('${said}')</script>`;

/** A page that notes what runs, with its own scripts in head and body. */
const PAGE = `<!DOCTYPE html><html><head><!--line--><meta charset="utf-8"><title>t</title><script>NOTE
document.addEventListener('DOMContentLoaded',()=>note('ready'));addEventListener('load',()=>note('load'))</script>
<script>note('own head')</script></head><body><p>one</p><script>note('own body')</script><div id="box"><p>in the box</p></div><table><tbody id="rows"></tbody></table><p>two</p><!--foot--></body></html>`;

interface Case {
  readonly what: string;
  readonly parts: readonly (readonly [Placement, string])[];
  /** Something of the page runs sooner than where it had to wait, as the table says. */
  readonly isSooner?: boolean;
  /** In the loose forms parts run in another order than the parser has it, as the table says. */
  readonly isLooselyOrdered?: boolean;
  /** Elements stand elsewhere than usual. */
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
    isLooselyOrdered: true,
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
    what: 'at each side of an element that a selector names',
    parts: [
      [{ selector: 'body > div:nth-of-type(1)', side: 'before' }, `<b>before</b>${inline('before')}`],
      [{ selector: 'body > div:nth-of-type(1)', side: 'inside' }, `<b>inside</b>${inline('inside')}`],
      [{ selector: 'body > div:nth-of-type(1)', side: 'inside-end' }, `<b>inside end</b>${inline('last')}`],
      [{ selector: 'body > div:nth-of-type(1)', side: 'after' }, `<b>after</b>${inline('after')}`],
    ],
    // The end of an element is known only when something stands behind it: what stands after it may run first.
    isSooner: true,
    isLooselyOrdered: true,
  },
  {
    what: 'at an element whose place is counted without what parts have put in',
    parts: [
      [{ selector: 'body > p:nth-of-type(1)', side: 'before' }, '<p>more</p>'],
      [{ selector: 'body > p:nth-of-type(2)', side: 'after' }, `<b>behind two</b>${inline('two')}`],
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
  {
    what: 'styles and notes of the head',
    parts: [
      ['head-start', '<meta name="a" content="b"><style>p{color:red}</style>'],
      ['head-end', '<link rel="preconnect" href="http://x.test"><!-- note -->'],
    ],
    isElsewhere: true,
  },
  {
    what: 'a deferred file of the head',
    isLooselyOrdered: true,
    parts: [
      ['head-start', file('deferred', 20, ' defer') + inline('inline')],
      ['body-end', inline('end')],
    ],
  },
  {
    what: 'what a file says of itself',
    parts: [
      [
        'body-end',
        `<script data-id="7" onload="(window.heard??=[]).push('own load')" src="/files/own.js?run=heard.push(document.currentScript.dataset.id)"></script>`,
      ],
    ],
  },
  {
    what: 'a loader that puts a file before the first script',
    parts: [
      [
        'body-end',
        `<script>(function(d,s){var j=d.createElement(s),f=d.getElementsByTagName(s)[0];j.async=true;j.src='/files/10/loaded.js';f.parentNode.insertBefore(j,f)})(document,'script')</script>`,
      ],
    ],
    isElsewhere: true,
  },
  {
    what: 'many promises between inline scripts',
    parts: [
      [
        'body-end',
        `<script>(async()=>{for(let i=0;i<6;i++)await 0;note('chain')})()</script>${inline('next')}`,
      ],
    ],
  },
  {
    what: 'what one script declares for the next',
    parts: [
      ['body-end', `<script>const shared='shared'</script>`],
      ['body-end', `<script>note(shared)</script>`],
    ],
  },
  {
    what: 'written scripts within written scripts',
    parts: [
      [
        'body-end',
        `<script>document.write('<script>document.write("<u>deep</u>");note("deep")<\\/script>')</script>${inline('behind')}`,
      ],
    ],
  },
  {
    what: 'a written file',
    isSooner: true,
    parts: [
      [
        'body-end',
        `<script>document.writeln('<script src="/files/20/lib.js"><\\/script>')</script>${inline('uses lib')}`,
      ],
    ],
  },
  {
    what: 'a file at the start of the body and what uses it at its end',
    isSooner: true,
    parts: [
      ['body-start', file('lib', 30)],
      ['body-end', inline('uses lib')],
    ],
  },
  {
    what: 'a frame and a picture',
    parts: [
      [
        'body-end',
        `<iframe title="f" srcdoc="<p>x"></iframe><img alt="" src="/files/150/none.js" onerror="note('no picture')">`,
      ],
    ],
  },
];

describe('the one line', function () {
  this.timeout(60_000);
  let browser: Browser;
  let site: LineSite;

  const started = useLineSite();
  before(() => ({ browser, site } = started()));

  function use(parts: Case['parts'], more: Partial<Parameters<LineSite['use']>[0]> = {}): void {
    const snippets = parts.map(([placement, code], i) =>
      snippet(`s${i}`, { parts: [part(placement, i, code)] }),
    );
    site.use({ snapshot: set(...snippets), pages: { '/': PAGE }, ...more });
  }
  const seen = (form: Form): Promise<Seen> => see(browser, `http://localhost:${site.port}/${form}/`);

  /** What the page itself notes, whose turn the loose forms do not wait for. */
  const OWN = new Set(['own head', 'own body', 'ready', 'load']);
  const ours = ({ heard }: Seen): string[] => heard.filter((one) => !OWN.has(one));
  const sorted = (texts: readonly string[]): string[] => [...texts].sort();

  for (const { what, parts, ...but } of CASES)
    it(`gives a page what it would have if its parts stood there: ${what}`, async () => {
      use(parts);
      const [standing, order, async, foot, pasted] = await Promise.all(
        (['standing', 'order', 'async', 'foot', 'pasted'] as const).map(seen),
      );
      expect(sorted(order!.heard), 'in order').to.deep.equal(sorted(standing!.heard));
      if (!but.isSooner) expect(order!.heard, 'in order').to.deep.equal(standing!.heard);
      expect(order!.errors).to.deep.equal(standing!.errors);
      expect(sorted(ours(pasted!)), 'pasted').to.deep.equal(sorted(ours(standing!)));
      for (const loose of [async!, foot!]) {
        expect(sorted(ours(loose))).to.deep.equal(sorted(ours(standing!)));
        if (!but.isLooselyOrdered) expect(ours(loose)).to.deep.equal(ours(standing!));
      }
      if (!but.isElsewhere)
        for (const { html } of [order!, async!, foot!]) expect(html).to.equal(standing!.html);
    });

  it('puts rows into a table, where the parser of pages would not have it', async () => {
    use([[{ anchor: 'rows', side: 'inside' }, '<tr><td>row</td></tr>']]);
    for (const form of ['order', 'async'] as const)
      expect((await seen(form)).html).to.include('<tbody id="rows"><tr><td>row</td></tr></tbody>');
  });

  it('waits for elements that come later, and for as long as it takes', async () => {
    use([[{ anchor: 'later', side: 'inside' }, `<b>here</b>${inline('later')}`]]);
    const { heard, html } = await see(browser, `http://localhost:${site.port}/order/`, {
      act: async (page) => {
        await page.evaluate(() => {
          const later = document.createElement('div');
          document.body.append(later);
          setTimeout(() => (later.id = 'later'), 20);
        });
        await page.getByText('here').waitFor();
      },
    });
    expect(heard.filter((one) => one === 'later')).to.have.length(1);
    expect(html).to.include('<div id="later"><b>here</b>');
  });

  it('runs once where it was pasted twice, and not at all where it is asked to stay away', async () => {
    site.use({
      snapshot: set(snippet('s', { parts: [part('body-end', 0, inline('end'))] })),
      pages: { '/': PAGE.replace('<!--line-->', '<!--line--><script src="/one/s.js"></script>') },
    });
    expect(ours(await seen('order'))).to.deep.equal(['end']);
    expect(ours(await see(browser, `http://localhost:${site.port}/order/?pragmatica=off`))).to.deep.equal([]);
  });

  it('leaves the page’s own writes and listeners alone', async () => {
    use([['body-end', inline('end')]], {
      pages: { '/': PAGE.replace('<p>two</p>', '<script>document.write("<p>own</p>")</script>') },
    });
    const [standing, order] = await Promise.all([seen('standing'), seen('order')]);
    expect(order).to.deep.equal(standing);
  });

  const POLICIES = {
    'a nonce': "script-src 'nonce-abc123'; style-src 'nonce-abc123'",
    'a nonce and strict-dynamic': "script-src 'nonce-abc123' 'strict-dynamic'",
    'Trusted Types': "require-trusted-types-for 'script'; trusted-types pragmatica",
  };
  for (const [what, policy] of Object.entries(POLICIES))
    it(`keeps to a policy with ${what}`, async () => {
      const page = PAGE.replaceAll('<script>', '<script nonce="abc123">');
      use(
        [
          ['head-start', `${inline('head')}<style>p{color:red}</style>`],
          ['body-end', file('lib', 10) + inline('end')],
        ],
        { pages: { '/': page }, headers: { 'content-security-policy': policy }, nonce: 'abc123' },
      );
      for (const form of ['order', 'async'] as const) {
        const { heard, errors } = await seen(form);
        expect(errors, form).to.deep.equal([]);
        expect(ours({ heard, errors, html: '' }), form).to.deep.equal(['head', 'lib', 'end']);
      }
    });

  it('breaks nothing where a policy forbids it', async () => {
    use([['body-end', inline('end')]], {
      headers: { 'content-security-policy': "require-trusted-types-for 'script'; trusted-types 'none'" },
    });
    const { heard } = await seen('order');
    expect(heard).to.include.members(['own head', 'own body', 'ready', 'load']);
  });
});
