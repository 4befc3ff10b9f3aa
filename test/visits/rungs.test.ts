import { expect } from 'chai';
import {
  beacon,
  PAGE,
  script,
  status,
  verdict,
  visitedSite,
  type Answer,
  type PlainSnippet,
  type VisitedSite,
  type VisitWish,
} from '../support/visited-site.js';

/** A chat as providers write it: a loader in the page, a file that makes a bubble and tells that it was shown. */
const chat: PlainSnippet = {
  key: 'chat',
  code: '<script>window.quayChat={room:"R-1"};</script><script async src="http://quaychat.localhost:PORT/chat.js"></script>',
  at: 'body-end',
};
const bubble = (style: string, more = ''): Answer =>
  script(
    `var b=document.createElement('button');b.id='quay-bubble';b.textContent='Chat with us';b.style.cssText='${style}';document.body.appendChild(b);${more}`,
  );
const CORNER = 'position:fixed;right:20px;bottom:20px;padding:12px';

/** A counter: a file that tells its provider of the visit. */
const counter: PlainSnippet = {
  key: 'counter',
  code: '<script async src="http://tidecount.localhost:PORT/count.js" data-account="TC-77"></script>',
};
const counting =
  (path = '/hit'): Answer =>
  (_, response) =>
    void response
      .writeHead(200, { 'content-type': 'text/javascript' })
      .end(`new Image().src=new URL('${path}?a=TC-77&e=visit',document.currentScript.src)`);

interface Case extends Partial<VisitWish> {
  readonly title: string;
  readonly snippets: readonly PlainSnippet[];
  readonly answers?: Readonly<Record<string, Answer>>;
  /** By snippet. */
  readonly verdicts: Readonly<Record<string, string>>;
}

const chatWell = { 'quaychat.localhost/chat.js': bubble(CORNER) };
const counterWell = { 'tidecount.localhost/count.js': counting(), 'tidecount.localhost/hit': beacon };

const WELL: readonly Case[] = [
  { title: 'a chat', snippets: [chat], answers: chatWell, verdicts: { chat: 'well' } },
  { title: 'a counter', snippets: [counter], answers: counterWell, verdicts: { counter: 'well' } },
  {
    title: 'a queue that is filled before its file comes',
    snippets: [
      {
        key: 'counter',
        code: '<script>window.tide=window.tide||function(){(tide.q=tide.q||[]).push(arguments)};tide("account","TC-77");tide("visit")</script><script async src="http://tidecount.localhost:PORT/q.js"></script>',
      },
    ],
    answers: {
      'tidecount.localhost/q.js': script(
        'var q=tide.q||[];var a="";window.tide=function(v,x){if(v==="account")a=x;else new Image().src="http://tidecount.localhost:"+location.port+"/hit?a="+a+"&e="+v};q.forEach(function(x){tide.apply(null,x)})',
      ),
      'tidecount.localhost/hit': beacon,
    },
    verdicts: { counter: 'well' },
  },
  {
    title: 'a counter that tells only when the visitor leaves',
    snippets: [counter],
    answers: {
      'tidecount.localhost/count.js': script(
        "var to=new URL('/hit?a=TC-77',document.currentScript.src).href;addEventListener('pagehide',function(){navigator.sendBeacon(to,'bye')})",
      ),
      'tidecount.localhost/hit': beacon,
    },
    verdicts: { counter: 'well' },
  },
  {
    title: 'a thing of which nobody can tell what it is, and which shows nothing',
    snippets: [{ key: 'thing', code: '<script async src="http://quay.localhost:PORT/x.js"></script>' }],
    answers: { 'quay.localhost/x.js': script('window.quayThing=1') },
    verdicts: { thing: 'well' },
  },
  {
    title: 'a chat whose pictures and extras fail',
    snippets: [chat],
    answers: {
      'quaychat.localhost/chat.js': bubble(
        CORNER,
        "new Image().src='http://quaychat.localhost:'+location.port+'/face.png';fetch('http://quaychat.localhost:'+location.port+'/extras').catch(function(){});console.warn('old version');setTimeout(function(){throw new Error('late')},50)",
      ),
    },
    verdicts: { chat: 'well' },
  },
  {
    title: 'a pop-up after two seconds',
    snippets: [{ ...chat, code: '<script src="http://nudge.localhost:PORT/popup.js"></script>' }],
    answers: {
      'nudge.localhost/popup.js': script(
        "setTimeout(function(){var d=document.createElement('div');d.setAttribute('role','dialog');d.textContent='Ten crossings, eight paid';d.style.cssText='position:fixed;left:20px;top:20px;width:200px;height:90px';document.body.appendChild(d)},2000)",
      ),
    },
    verdicts: { chat: 'well' },
  },
  {
    title: 'a form inside of an element of the page',
    page: PAGE.replace('</body>', '<div id="quay-form"></div></body>'),
    snippets: [
      {
        key: 'form',
        at: 'body-end',
        code: '<script src="http://hatch.localhost:PORT/form.js"></script>',
      },
    ],
    answers: {
      'hatch.localhost/form.js': script(
        "document.getElementById('quay-form').innerHTML='<form><input type=email placeholder=mail><button>Send me news</button></form>'",
      ),
    },
    verdicts: { form: 'well' },
  },
  {
    title: 'a frame that is written as it is',
    snippets: [
      {
        key: 'booking',
        at: 'body-end',
        code: '<iframe src="http://slot.localhost:PORT/book" width="400" height="200" title="Book"></iframe>',
      },
    ],
    answers: { 'slot.localhost/book': status(200, 'text/html', '<p>Book</p>') },
    verdicts: { booking: 'well' },
  },
  {
    title: 'a chat in a shadow root',
    snippets: [chat],
    answers: {
      'quaychat.localhost/chat.js': script(
        `var h=document.createElement('div');document.body.appendChild(h);var r=h.attachShadow({mode:'open'});var b=document.createElement('button');b.textContent='Chat';b.style.cssText='${CORNER}';r.appendChild(b)`,
      ),
    },
    verdicts: { chat: 'well' },
  },
  {
    title: 'what only tells search engines something, and what only looks',
    snippets: [
      {
        key: 'data',
        code: '<script type="application/ld+json">{"@type":"Organization","name":"Skerrywick"}</script>',
      },
      { key: 'meta', code: '<meta name="site-check" content="abc">' },
      { key: 'style', code: '<style>h1{color:navy}</style>' },
    ],
    verdicts: { data: 'well', meta: 'well', style: 'well' },
  },
  {
    title: 'a container that brings a counter',
    snippets: [{ key: 'container', code: '<script async src="http://crate.localhost:PORT/c.js"></script>' }],
    answers: {
      'crate.localhost/c.js': script(
        "var s=document.createElement('script');s.src='http://tidecount.localhost:'+location.port+'/count.js';document.head.appendChild(s)",
      ),
      ...counterWell,
    },
    verdicts: { container: 'well' },
  },
];

const BROKEN: readonly Case[] = [
  { title: 'a file that is not there', snippets: [chat], verdicts: { chat: 'loaded: no-such-file' } },
  {
    title: 'a domain that is not registered',
    snippets: [chat],
    answers: { 'quaychat.localhost/chat.js': status(403) },
    verdicts: { chat: 'loaded: refused' },
  },
  {
    title: 'a provider that is down, behind what the browser hides',
    snippets: [chat],
    answers: { 'quaychat.localhost/chat.js': status(503, 'text/html', '<h1>Sorry</h1>') },
    verdicts: { chat: 'loaded: provider-down' },
  },
  {
    title: 'a page where a script should be',
    snippets: [chat],
    answers: {
      'quaychat.localhost/chat.js': (_, response) =>
        void response
          .writeHead(200, { 'content-type': 'text/html', 'x-content-type-options': 'nosniff' })
          .end('<h1>Welcome</h1>'),
    },
    verdicts: { chat: 'loaded: wrong-type' },
  },
  {
    title: 'a host that does not exist',
    snippets: [{ ...chat, code: '<script src="http://quaychatt.invalid/chat.js"></script>' }],
    verdicts: { chat: 'loaded: no-such-host' },
  },
  {
    title: 'a server that refuses connections',
    snippets: [{ ...chat, code: '<script src="http://quaychat.localhost:61/chat.js"></script>' }],
    verdicts: { chat: 'loaded: no-answer' },
  },
  {
    title: 'a provider that does not answer in time',
    snippets: [chat],
    answers: { 'quaychat.localhost/chat.js': () => undefined },
    verdicts: { chat: 'loaded: slow' },
  },
  {
    title: 'a policy that keeps the file out',
    snippets: [chat],
    answers: chatWell,
    headers: { 'content-security-policy': "script-src 'self' 'unsafe-inline'" },
    verdicts: { chat: 'loaded: blocked-by-policy' },
  },
  {
    title: 'a policy that keeps inline code from running',
    snippets: [{ key: 'inline', code: '<script>window.tideSettings={account:"TC-77"}</script>' }],
    headers: { 'content-security-policy': "script-src 'self'" },
    verdicts: { inline: 'ran: inline-blocked' },
  },
  {
    title: 'a file that has changed since it was pinned',
    snippets: [
      {
        ...chat,
        code: '<script src="http://quaychat.localhost:PORT/chat.js" integrity="sha256-AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA=" crossorigin></script>',
      },
    ],
    answers: {
      'quaychat.localhost/chat.js': (_, response) =>
        void response
          .writeHead(200, { 'content-type': 'text/javascript', 'access-control-allow-origin': '*' })
          .end('1'),
    },
    verdicts: { chat: 'loaded: changed-file' },
  },
  {
    title: 'a file that is not shared',
    snippets: [
      { ...chat, code: '<script src="http://quaychat.localhost:PORT/chat.js" crossorigin></script>' },
    ],
    answers: chatWell,
    verdicts: { chat: 'loaded: not-shared' },
  },
  {
    title: 'code that cannot be read',
    snippets: [{ key: 'cut', code: '<script>window.tide = {account: "TC-77"</script>' }],
    verdicts: { cut: 'ran: syntax' },
  },
  {
    title: 'an error of its own file',
    snippets: [chat],
    answers: { 'quaychat.localhost/chat.js': script('null.open()') },
    verdicts: { chat: 'ran: exception' },
  },
  {
    title: 'a name whose maker comes later',
    snippets: [
      { key: 'event', code: '<script>tide("booked")</script>' },
      { key: 'loader', code: '<script>function tide(e){window.tideSent=e}</script>' },
    ],
    verdicts: { event: 'ran: dependency-later', loader: 'well' },
  },
  {
    title: 'a name whose maker is on other pages',
    snippets: [
      {
        key: 'loader',
        code: '<script>function tide(e){}</script>',
        pages: { include: ['/other'], exclude: [] },
      },
      { key: 'event', code: '<script>tide("booked")</script>' },
    ],
    verdicts: { event: 'ran: dependency-left-out', loader: 'left-out' },
  },
  {
    title: 'a name that nobody makes',
    snippets: [{ key: 'event', code: '<script>tide("booked")</script>' }],
    verdicts: { event: 'ran: undefined-name' },
  },
  {
    title: 'a name that its own late file makes',
    snippets: [
      {
        key: 'event',
        code: '<script async src="http://tidecount.localhost:PORT/lib.js"></script><script>tideGo("TC-77")</script>',
      },
    ],
    answers: { 'tidecount.localhost/lib.js': script('window.tideGo=function(){}') },
    verdicts: { event: 'ran: used-before-loaded' },
  },
  {
    title: 'an element that the page does not have',
    snippets: [
      {
        key: 'form',
        at: 'body-end',
        code: '<script>document.getElementById("quay-form").innerHTML="x"</script>',
      },
    ],
    verdicts: { form: 'ran: no-element' },
  },
  {
    title: 'an element that comes later',
    page: PAGE.replace('</body>', '<div id="quay-form"></div></body>'),
    snippets: [{ key: 'form', code: '<script>document.getElementById("quay-form").innerHTML="x"</script>' }],
    verdicts: { form: 'ran: element-later' },
  },
  {
    title: 'a style of the site that hides it',
    page: PAGE.replace('</head>', '<style>#quay-bubble{display:none!important}</style></head>'),
    snippets: [chat],
    answers: chatWell,
    verdicts: { chat: 'shown: hidden' },
  },
  {
    title: 'a place outside of the window',
    snippets: [chat],
    answers: { 'quaychat.localhost/chat.js': bubble('position:fixed;left:-900px;bottom:20px') },
    verdicts: { chat: 'shown: outside' },
  },
  {
    title: 'something of the page on top of it',
    page: PAGE.replace(
      '</body>',
      '<div id="bar" style="position:fixed;left:0;right:0;bottom:0;height:120px;z-index:9;background:#eee">News</div></body>',
    ),
    snippets: [chat],
    answers: chatWell,
    verdicts: { chat: 'shown: covered' },
  },
  {
    title: 'a provider that says why',
    snippets: [chat],
    answers: {
      'quaychat.localhost/chat.js': script("console.error('quaychat: ferries.localhost is not registered')"),
    },
    verdicts: { chat: 'shown: provider-says' },
  },
  {
    title: 'a chat that shows nothing and says nothing',
    snippets: [chat],
    answers: { 'quaychat.localhost/chat.js': script('1') },
    verdicts: { chat: 'shown: nothing-shown' },
  },
  {
    title: 'a script of somebody else that the page waits for in vain',
    snippets: [
      { key: 'slow', code: '<script src="http://quaychat.localhost:PORT/slow.js"></script>' },
      {
        ...counter,
        at: 'body-end',
        code: '<script src="http://tidecount.localhost:PORT/count.js"></script>',
      },
    ],
    answers: { ...counterWell, 'quaychat.localhost/slow.js': () => undefined },
    verdicts: { slow: 'loaded: slow', counter: 'ran: held-up' },
  },
  {
    title: 'a place that is never filled, with the provider’s own word for why',
    snippets: [
      {
        ...chat,
        code: '<div id="quay-place"></div><script src="http://quaychat.localhost:PORT/chat.js"></script>',
      },
    ],
    answers: { 'quaychat.localhost/chat.js': script("console.warn('quaychat: over its limit')") },
    verdicts: { chat: 'shown: provider-says' },
  },
  {
    title: 'a report that is refused',
    snippets: [counter],
    answers: { 'tidecount.localhost/count.js': counting(), 'tidecount.localhost/hit': status(403) },
    verdicts: { counter: 'reported: report-refused' },
  },
  {
    title: 'a policy that keeps the report in',
    snippets: [counter],
    answers: counterWell,
    headers: { 'content-security-policy': "img-src 'self'; connect-src 'self'" },
    verdicts: { counter: 'reported: blocked-by-policy' },
  },
  {
    title: 'a counter that counts nothing',
    snippets: [counter],
    answers: { 'tidecount.localhost/count.js': script('1') },
    verdicts: { counter: 'reported: nothing-reported' },
  },
  {
    title: 'code that the page does not have',
    snippets: [chat],
    written: [],
    verdicts: { chat: 'delivered: missing' },
  },
  {
    title: 'code that stands in the page twice',
    page: PAGE.replace('</body>', `${chat.code!}</body>`),
    snippets: [chat],
    answers: chatWell,
    verdicts: { chat: 'delivered: twice' },
  },
  {
    title: 'code that a type keeps from running',
    snippets: [
      {
        key: 'held',
        code: '<script type="text/plain" src="http://tidecount.localhost:PORT/count.js"></script>',
      },
    ],
    answers: counterWell,
    verdicts: { held: 'ran: held-by-type' },
  },
];

describe('rungs, in a real browser', function () {
  this.timeout(60_000);
  let site: VisitedSite;

  before(async () => {
    site = await visitedSite();
  });

  after(() => site.close());

  for (const { title, verdicts, answers = {}, ...wish } of [...WELL, ...BROKEN])
    it(`${title}: ${Object.entries(verdicts)
      .map(([snippet, found]) => `${snippet} ${found}`)
      .join(', ')}`, async () => {
      site.answers = { ...answers };
      const seen = await site.visit(wish);
      const found = Object.fromEntries(
        Object.keys(verdicts).map((snippet) => [snippet, verdict(seen, snippet)]),
      );
      expect(found, JSON.stringify(seen.judged.at(-1)?.snippets, null, 1)).to.deep.equal(verdicts);
    });
});
