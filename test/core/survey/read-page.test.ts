import { readPage, type PageReading } from '@pragmatica/core';
import { expect } from 'chai';

function read(
  html: string | Uint8Array,
  { url = 'https://www.example.com/fares', status = 200, headers = {} } = {},
): PageReading {
  const bytes = typeof html === 'string' ? new TextEncoder().encode(html) : html;
  return readPage({ url, status, bytes, headers: { 'content-type': 'text/html', ...headers } });
}

const seen = (html: string): string[] =>
  read(html).items.map(({ kind, state, place }) => `${kind} ${state} ${place}`);

const PAGE = `<!DOCTYPE html>
<html lang="en-GB"><head><meta charset="utf-8"><title>Fares
 and  passes</title><base href="/shop/"><link rel="canonical" href="/fares#top">
<link rel="stylesheet" href="/site.css"><script async src="//tallymast.example/count.js" data-account="TM-1"></script>
<script type="application/ld+json">{"@type":"Product"}</script></head>
<body><noscript><img src="https://glintpixel.example/p.gif"></noscript>
<p>Words <a href="pass">pass</a> <a href="/fares#seat">seat</a> <a href="mailto:quay@example.com">mail</a></p>
<img src="https://glintpixel.example/seen.gif" width="1" height="1"><img src="/ship.jpg" width="300">
<!-- <script src="https://old.example/a.js"></script> -->
<!--[if IE]><script src="https://old.example/b.js"></script><![endif]-->
<template><iframe src="https://nudgelet.example/later"></iframe></template>
<iframe src="https://slotwell.example/slots"></iframe>
<script type="text/plain" data-consent="adverts">adverts()</script>
<p>More words</p><div id="chat"></div>
<script>document.getElementById('chat').append('x')</script>
</body></html>`;

describe('a page that is surveyed', () => {
  it('gives each thing in it with its kind, its place and whether it runs', () => {
    expect(seen(PAGE)).to.deep.equal([
      'style active head',
      'script active head',
      'data active head',
      'pixel noscript body-start',
      'pixel active body',
      'script comment body',
      'script conditional-comment body',
      'frame template body',
      'frame active body',
      'script inert-type body',
      'element active body-end',
      'script active body-end',
    ]);
  });

  it('gives the range of each as it stands in the text', () => {
    const { items } = read(PAGE);
    for (const { range, code } of items) expect(PAGE.slice(range.start, range.end)).to.equal(code);
    expect(items[3]!.code).to.equal('<img src="https://glintpixel.example/p.gif">');
    expect(items[5]!.code).to.equal('<script src="https://old.example/a.js"></script>');
  });

  it('gives title, language, canonical address and links, resolved by its base', () => {
    const { title, language, canonical, links } = read(PAGE);
    expect({ title, language, canonical }).to.deep.equal({
      title: 'Fares and passes',
      language: 'en-GB',
      canonical: 'https://www.example.com/fares',
    });
    expect(links).to.deep.equal([
      'https://www.example.com/shop/pass',
      'https://www.example.com/fares',
      'https://slotwell.example/slots',
    ]);
  });

  it('tells policies of headers and of meta elements apart, several in one header too', () => {
    const { policies } = read(
      `<meta http-equiv="Content-Security-Policy" content="img-src 'self'"><p>x</p>`,
      {
        headers: {
          'content-security-policy': "default-src 'self', script-src 'none'",
          'content-security-policy-report-only': "object-src 'none'",
        },
      },
    );
    expect(policies).to.deep.equal([
      { value: "default-src 'self'", from: 'header', isReportOnly: false },
      { value: "script-src 'none'", from: 'header', isReportOnly: false },
      { value: "object-src 'none'", from: 'header', isReportOnly: true },
      { value: "img-src 'self'", from: 'meta', isReportOnly: false },
    ]);
  });

  it('says where it sends visitors on, by header or by itself', () => {
    expect(read('<meta http-equiv=refresh content="0; URL=\'/new\'">').refresh).to.equal(
      'https://www.example.com/new',
    );
    expect(read('<p>x</p>', { headers: { refresh: '3;url=/later' } }).refresh).to.equal(
      'https://www.example.com/later',
    );
    expect(read('<meta http-equiv=refresh content="30">').refresh).to.equal(undefined);
  });

  it('takes what stands before the body for the head’s, though no tag says so', () => {
    expect(seen('<title>t</title><script>1</script><p>x</p><script>2</script>')).to.deep.equal([
      'script active head',
      'script active body-end',
    ]);
  });

  for (const [path, html, type] of [
    ['/', '<p>x</p>', 'front'],
    ['/order/thank-you', '<p>x</p>', 'confirmation'],
    ['/news/1', '<article>x</article>', 'article'],
    ['/news', '<article>x</article><article>y</article>', 'list'],
    ['/contact', '<form><input name=a><textarea></textarea></form>', 'form'],
    ['/search', '<form><input name=q></form>', 'other'],
    ['/shop/boots', '<p>x</p>', 'shop'],
  ] as const)
    it(`takes ${path} for "${type}"`, () => {
      expect(read(html, { url: `https://www.example.com${path}` }).type).to.equal(type);
    });

  it('takes what was answered with an error for an error', () => {
    expect(read('<p>x</p>', { status: 404 }).type).to.equal('error');
  });

  describe('is read in its encoding:', () => {
    const title = (bytes: Uint8Array, contentType = 'text/html'): [string, string, string] => {
      const page = read(bytes, { headers: { 'content-type': contentType } });
      return [page.title, page.charset.name, page.charset.from];
    };
    const around = (...bytes: number[]): Uint8Array =>
      Uint8Array.from([...Buffer.from('<title>'), ...bytes, ...Buffer.from('</title>')]);

    it('windows-1252 with its own signs, where nothing is declared and where Latin-1 is', () => {
      expect(title(around(0x80, 0x93, 0xe9))).to.deep.equal(['€“é', 'windows-1252', 'not-declared']);
      expect(title(around(0x85), 'text/html; charset=ISO-8859-1')).to.deep.equal([
        '…',
        'windows-1252',
        'header',
      ]);
    });

    it('UTF-16 by its mark', () => {
      const bytes = Buffer.from('\ufeff<title>Fähre 渡</title>', 'utf16le');
      expect(title(bytes)).to.deep.equal(['Fähre 渡', 'utf-16le', 'mark']);
    });

    it('East Asian ones', () => {
      expect(title(around(0x93, 0x6e, 0x82, 0xb5), 'text/html; charset=shift_jis')[0]).to.equal('渡し');
      expect(title(around(0xb9, 0xe6), 'text/html; charset=euc-kr')[0]).to.equal('방');
      expect(title(around(0xd5, 0xbe), 'text/html; charset=gbk')[0]).to.equal('站');
      expect(title(around(0xaf, 0xb8), 'text/html; charset=big5')[0]).to.equal('站');
    });

    it('as its own meta says', () => {
      const bytes = Buffer.from('<meta charset=koi8-r><title>\xf0</title>', 'latin1');
      expect(title(bytes)).to.deep.equal(['П', 'koi8-r', 'meta']);
    });
  });

  it('is refused where it is nested deeper than browsers nest, and cut where it holds too much', () => {
    expect(() => read('<b>'.repeat(5_000))).to.throw('nesting');
    expect(read('<script>1</script>'.repeat(3_000)).items).to.have.length(2_000);
  });
});

describe('what is seen on two pages is one thing', () => {
  const key = (code: string, url = 'https://www.example.com/fares', title = 'Fares'): string => {
    const { items } = read(`<title>${title}</title><body><p>x</p>${code}`, { url });
    return items.map((item) => item.key).join();
  };
  const form = (code: string): string => read(`<body><p>x</p>${code}`).items[0]!.form;

  for (const [what, one, other] of [
    ['a nonce', '<script nonce="abc123">go()</script>', '<script nonce="zzz9">go()</script>'],
    [
      'a token',
      `<script>go({csrfToken: 'k3J9xPq2LmN8vRt5'})</script>`,
      `<script>go({csrfToken: 'zzQ1w2E3r4T5y6U7'})</script>`,
    ],
    [
      'a time',
      '<script>go({rendered: "2027-03-01T10:00:00Z"})</script>',
      '<script>go({rendered: "2027-03-02T11:30:00Z"})</script>',
    ],
    [
      'a random value that may be a token',
      '<script>theme = { page: 17, token: "t17abcdef0123456789" }</script>',
      '<script>theme = { page: 4, token: "t4abcdef0123456789" }</script>',
    ],
    ['the page’s own number', '<script>go({pageId: 17})</script>', '<script>go({pageId: 4})</script>'],
    ['a cache-buster', '<script src="/a.js?v=1"></script>', '<script src="/a.js?v=2"></script>'],
    [
      'a random id',
      '<script>go("0c0ffee0-1234-4abc-9def-001122334455")</script>',
      '<script>go("ffffffff-1234-4abc-9def-001122334455")</script>',
    ],
  ] as const)
    it(`though ${what} differs`, () => {
      expect(key(one)).to.equal(key(other));
      expect(form(one)).to.equal(form(other));
    });

  it('though pages of another folder write its address another way', () => {
    const key = (src: string, url: string, head = ''): string =>
      read(`${head}<script src="${src}"></script>`, { url: `https://www.example.com${url}` }).items[0]!.key;
    const one = key('/lib/theme.js', '/');
    expect(key('lib/theme.js', '/')).to.equal(one);
    expect(key('../lib/theme.js', '/news/today')).to.equal(one);
    expect(key('theme.js', '/news/today', '<base href="/lib/">')).to.equal(one);
    expect(key('lib/theme.js', '/news/today')).to.not.equal(one);
    expect(key('//elsewhere.example/lib/theme.js', '/')).to.not.equal(one);
  });

  it('though each names its own page', () => {
    const fares = key('<script>see("/fares", "Fares")</script>');
    const news = key('<script>see("/news/a", "News")</script>', 'https://www.example.com/news/a', 'News');
    expect(fares).to.equal(news);
  });

  it('though it is written in another way, which is another form', () => {
    const [one, other] = ['<script>go( 1 , "a" )</script>', "<SCRIPT>go(1,'a')</SCRIPT>"];
    expect(key(one)).to.equal(key(other));
    expect(form(one)).not.to.equal(form(other));
  });

  for (const [what, one, other] of [
    [
      'the account',
      '<script src="https://a.example/x.js" data-account="TM-1"></script>',
      '<script src="https://a.example/x.js" data-account="TM-2"></script>',
    ],
    ['a numeric account', `<script>set('account', 4711)</script>`, `<script>set('other', 4711)</script>`],
    ['the file', '<script src="/a.js"></script>', '<script src="/b.js"></script>'],
    ['what is called', '<script>track("seen")</script>', '<script>track("booked")</script>'],
  ] as const)
    it(`but not where ${what} differs`, () => {
      expect(key(one)).not.to.equal(key(other));
    });
});
