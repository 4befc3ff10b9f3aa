import { expect } from 'chai';
import type { SnippetInput } from '@pragmatica/contract';
import { plain, startVisitedStage, type Answer, type VisitedStage } from '../support/visited-stage.js';

const TEXT =
  '<p>Between three islands, every day but Christmas, whatever the weather may be like out there on the water. Tickets are sold on board.</p>';
const PAGE = `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Quay</title><link rel="stylesheet" href="/site.css"></head><body><h1>Ferries</h1>${TEXT}<p><a href="/fares">Fares</a> <button id="go">Search</button></p><script>document.getElementById('go').onclick=function(){}</script></body></html>`;
const WITH_FORM = PAGE.replace(
  '<h1>',
  '<nav><a href="/a">Boats</a> <a href="/b">Fares</a> <a href="/c">Islands</a> <a href="/d">News</a></nav><h1>',
).replace(
  '<script>',
  '<form action="/book"><label>From <select name="from"><option>Hallow</select></label> <label>Day <input type="date" name="day"></label> <button>Book</button></form><script>',
);
const atEnd = (snippet: SnippetInput): SnippetInput => ({
  ...snippet,
  parts: snippet.parts.map((part) => ({ ...part, placement: 'body-end' })),
});
const beacon: Answer = (_, response) => void response.writeHead(204).end();
const picture: Answer = (_, response) =>
  void response
    .writeHead(200, { 'content-type': 'image/svg+xml' })
    .end('<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20"></svg>');
const COUNT = "new Image().src=new URL('/hit?a=TC-77&e=visit&r='+Math.random(),document.currentScript.src)";

const counter = plain('counter', '<script async src="http://tidecount.localhost:PORT/count.js"></script>');
const chat = plain('chat', '<script async src="http://quaychat.localhost:PORT/chat.js"></script>');
const OTHERS: readonly SnippetInput[] = [
  counter,
  chat,
  plain('style', '<style>h1{letter-spacing:1px}</style>'),
  plain('meta', '<meta name="quay-check" content="abc">'),
  plain('queue', '<script>window.tide=window.tide||[];tide.push("start")</script>'),
];
const PROVIDERS = {
  '/': PAGE,
  '/site.css': 'body{margin:20px}',
  'tidecount.localhost/count.js': COUNT,
  'tidecount.localhost/hit': beacon,
  'quaychat.localhost/chat.js':
    "var b=document.createElement('button');b.textContent='Chat';b.style.cssText='position:fixed;right:20px;bottom:20px';document.body.appendChild(b)",
};

/** Has a button each time but the first. */
function oftenWithOffer(): Answer {
  let opened = 0;
  return (_, response) => {
    const offer = opened++ === 0 ? '' : '<p><button>Offer of the day</button></p>';
    response
      .writeHead(200, { 'content-type': 'text/html; charset=utf-8' })
      .end(PAGE.replace('<script>', `${offer}<script>`));
  };
}

interface Case {
  readonly title: string;
  readonly snippets: readonly SnippetInput[];
  readonly answers?: Readonly<Record<string, Answer | string>>;
  /** Kind and culprits of each, as `broken: popup`. */
  readonly troubles: readonly string[];
}

const CASES: readonly Case[] = [
  { title: 'nothing', snippets: OTHERS, troubles: [] },
  {
    title: 'a snippet that empties the page',
    snippets: [
      ...OTHERS,
      plain('wiper', '<script>addEventListener("load",function(){document.write("<p>hi")})</script>'),
    ],
    troubles: ['broken: wiper'],
  },
  {
    title: 'a snippet that hides the page until something comes that never does',
    snippets: [
      ...OTHERS,
      plain('flicker', '<style>body{visibility:hidden}body.quay-ready{visibility:visible}</style>'),
    ],
    troubles: ['broken: flicker'],
  },
  {
    title: 'a snippet that lays a clear sheet over everything',
    snippets: [
      ...OTHERS,
      plain('sheet', '<script src="http://nudge.localhost:PORT/sheet.js" defer></script>'),
    ],
    answers: {
      'nudge.localhost/sheet.js':
        "var d=document.createElement('div');d.style.cssText='position:fixed;left:0;top:0;right:0;bottom:0;z-index:99';document.body.appendChild(d)",
    },
    troubles: ['broken: sheet'],
  },
  {
    title: 'a snippet that sends visitors away',
    snippets: [
      ...OTHERS,
      plain('sender', '<script>setTimeout(function(){location.href="/elsewhere"},100)</script>'),
    ],
    answers: { '/elsewhere': PAGE },
    troubles: ['broken: sender'],
  },
  {
    title: 'a snippet that runs without end',
    snippets: [...OTHERS, plain('spinner', '<script>setTimeout(function(){for(;;);},50)</script>')],
    troubles: ['broken: spinner'],
  },
  {
    title: 'a snippet that takes a form away',
    snippets: [
      ...OTHERS,
      // It stands where a field of the form was.
      plain(
        'button',
        '<script>document.querySelector("form").insertAdjacentHTML("beforebegin", "<button>See free places</button>")</script>',
      ),
      plain('tidier', '<script>document.querySelector("form").remove()</script>'),
    ].map(atEnd),
    answers: { '/': WITH_FORM },
    troubles: ['broken: tidier'],
  },
  {
    title: 'a snippet that hides the menu',
    snippets: [...OTHERS, plain('plainer', '<style>nav{display:none}</style>')],
    answers: { '/': WITH_FORM },
    troubles: ['broken: plainer'],
  },
  {
    title: 'a page that leaves out a button now and then by itself, which is none',
    snippets: OTHERS,
    answers: { '/': oftenWithOffer() },
    troubles: [],
  },
  {
    title: 'a policy of its own that keeps the page’s pictures out',
    snippets: [
      ...OTHERS,
      plain(
        'strict',
        '<meta http-equiv="Content-Security-Policy" content="img-src http://*.localhost:PORT/hit">',
      ),
    ],
    answers: {
      '/': PAGE.replace('<h1>', '<img src="/boat.svg" alt="" width="20" height="20"><h1>'),
      '/boat.svg': picture,
    },
    troubles: ['broken: strict'],
  },
  {
    title: 'a provider’s form in the place of the page’s, which is none',
    snippets: [
      ...OTHERS,
      plain('form', '<script src="http://formhatch.localhost:PORT/form.js"></script>'),
      plain('rename', '<script>document.getElementById("go").textContent="Find a boat"</script>'),
    ].map(atEnd),
    answers: {
      '/': WITH_FORM,
      'formhatch.localhost/form.js':
        'var f=document.createElement("section");f.innerHTML="<label>Your mail <input type=email></label> <button>Send</button>";document.querySelector("form").replaceWith(f)',
    },
    troubles: [],
  },
  {
    title: 'a dialog that can be closed, which is none',
    snippets: [
      ...OTHERS,
      plain('dialog', '<script src="http://nudge.localhost:PORT/dialog.js" defer></script>'),
    ],
    answers: {
      'nudge.localhost/dialog.js':
        "var d=document.createElement('div');d.setAttribute('role','dialog');d.style.cssText='position:fixed;left:0;top:0;right:0;bottom:0;z-index:99;background:#fff8';d.innerHTML='<p>News?</p><button>No thanks</button>';document.body.appendChild(d)",
    },
    troubles: [],
  },
  {
    title: 'a counter that is in the page’s own template, too',
    snippets: [counter, chat],
    answers: {
      '/': PAGE.replace('</body>', '<script src="http://tidecount.localhost:PORT/count.js"></script></body>'),
    },
    troubles: ['twice: counter'],
  },
  {
    title: 'a counter that a container brings as well',
    snippets: [counter, plain('container', '<script async src="http://crate.localhost:PORT/c.js"></script>')],
    answers: {
      'crate.localhost/c.js':
        "var s=document.createElement('script');s.src=document.currentScript.src.replace('crate','tidecount').replace('c.js','count.js');document.head.appendChild(s)",
    },
    troubles: ['twice: container,counter'],
  },
  {
    title: 'something that is stored before anybody agreed',
    snippets: [
      ...OTHERS,
      plain('keeper', '<script>document.cookie="quayid=1;path=/";localStorage.setItem("quay","x")</script>'),
    ],
    troubles: ['early: keeper'],
  },
];

describe('what is wrong on a page, and who does it', function () {
  this.timeout(180_000);
  let site: VisitedStage;

  before(async () => {
    site = await startVisitedStage();
  });

  after(() => site.close());

  for (const { title, snippets, answers = {}, troubles } of CASES)
    it(title, async () => {
      const all = { ...PROVIDERS, ...answers };
      site.answers = Object.fromEntries(
        Object.entries(all).map(([path, one]) => [
          path,
          typeof one === 'string' ? one.replaceAll(':PORT', `:${site.port}`) : one,
        ]),
      );
      await site.publish(snippets);
      const answer = await site.trouble('/');
      const found = answer.troubles.map(({ kind, culprits }) => `${kind}: ${[...culprits].sort().join()}`);
      expect(found, JSON.stringify(answer, null, 1)).to.deep.equal(troubles);
      expect(answer.isWell).to.equal(troubles.length === 0);
    });

  it('tells whether its last change did it, by a visit with the snippet as it was', async () => {
    site.answers = PROVIDERS;
    const style = (css: string) => [...OTHERS, plain('banner', `<style>${css}</style>`)];
    const hidden = 'body{visibility:hidden}';
    await site.publish(style('h1{letter-spacing:2px}'));
    await site.publish(style(hidden));
    const [changed] = (await site.trouble('/')).troubles;
    expect(changed).to.deep.include({ kind: 'broken', culprits: ['banner'] });
    expect(changed!.advice).to.match(/^Restore “banner” from release \d+ and publish/);
    expect(changed!.evidence.join('\n')).to.match(
      /As “banner” was in release \d+, the page works: its last change breaks it\./,
    );
    await site.publish(style(`${hidden}h2{letter-spacing:1px}`));
    const [same] = (await site.trouble('/')).troubles;
    expect(same!.advice).to.equal(changed!.advice);
    expect(same!.evidence.join('\n')).to.match(
      /“banner” has broken the page since release \d+\. As it was in release \d+, the page works\./,
    );
    const veil = (css: string) => [...OTHERS, plain('veil', `<style>${css}</style>`)];
    await site.publish(veil(hidden));
    await site.publish(veil(`${hidden}h2{letter-spacing:1px}`));
    const [always] = (await site.trouble('/')).troubles;
    expect(always!.advice).to.match(/^Switch “veil” off/);
    expect(always!.evidence.join('\n')).to.match(
      /“veil” breaks the page as it was in release \d+, too: no change here is the cause/,
    );
  });
});
