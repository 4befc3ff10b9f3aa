import { readFileSync, writeFileSync } from 'node:fs';
import { expect } from 'chai';
import fc from 'fast-check';
import { lineAndColumn, normalAddress, readCode, type Facts } from '@pragmatica/core';
import { CORPUS, factLines } from '../corpus/corpus.js';

const file = new URL('../corpus/expected.json', import.meta.url);
const inScript = (code: string): Facts => readCode(`<script>${code}</script>`);
const lines = (code: string, ...starts: readonly string[]): string[] =>
  factLines(inScript(code)).filter((line) => starts.some((start) => line.startsWith(start)));

describe('reading code', () => {
  describe('as it is handed out and pasted', () => {
    if (process.env.UPDATE_CORPUS === '1')
      writeFileSync(
        file,
        `${JSON.stringify(Object.fromEntries(CORPUS.map(({ name, code }) => [name, factLines(readCode(code))])), undefined, 2)}\n`,
      );
    const expected = JSON.parse(readFileSync(file, 'utf8')) as { [name: string]: string[] };
    for (const { name, code } of CORPUS)
      it(name, () => expect(factLines(readCode(code))).to.deep.equal(expected[name]));
  });

  describe('follows addresses that are put together', () => {
    const cases: readonly [what: string, code: string, address: string][] = [
      [
        'parameters of a function called at once',
        `(function(a,b){var i=new Image();i.src=a+b})('https://x.example/','p.gif')`,
        'https://x.example/p.gif',
      ],
      [
        'a default',
        `var h=window.theirHost||'h.example';var s=document.createElement('script');s.src='https://'+h+'/a.js';document.head.appendChild(s)`,
        'https://h.example/a.js',
      ],
      [
        'joined lists',
        `document.head.append(Object.assign(document.createElement('script'),{src:['https:/','x.example','a.js'].join('/')}))`,
        'https://x.example/a.js',
      ],
      [
        'a name given by another',
        `const d=document,make=d.createElement.bind(d);const u='//x.example';const i=new Image;i.src=u+'/i.gif?n='+Math.random()`,
        '//x.example/i.gif?n=…',
      ],
      [
        'a function by another name',
        `function put(u){const s=document.createElement('script');s.src=u;document.head.append(s)}const go=put.bind(null);go('https://x.example/d.js')`,
        'https://x.example/d.js',
      ],
      [
        'an arrow that gives back an element',
        `const tag=(src)=>{const el=document.createElement('script');el.src=src;return el};document.body.append(tag('https://x.example/b.js'))`,
        'https://x.example/b.js',
      ],
      [
        'destructured settings',
        `const {host='x.example',file}={file:'c.js'};fetch(\`https://\${host}/\${file}\`)`,
        'https://x.example/c.js',
      ],
      [
        'added to',
        `var u='https://x.example/a.js';u+='?id=7';navigator.sendBeacon(u)`,
        'https://x.example/a.js?id=7',
      ],
      [
        'a list that is gone through',
        `['a','b'].forEach(function(n){new Image().src='https://x.example/'+n+'.gif'})`,
        'https://x.example/a.gif',
      ],
      [
        'a method of an object',
        `var L={base:'https://x.example/',get:function(f){var s=document.createElement('script');s.src=this.base+f;document.body.appendChild(s)}};L.get('m.js')`,
        'https://x.example/m.js',
      ],
      [
        'markup written into the page',
        `document.write('<script src="https://x.example/w.js"><\\/script>')`,
        'https://x.example/w.js',
      ],
    ];
    for (const [what, code, address] of cases)
      it(what, () => expect(inScript(code).loads[0]?.address).to.equal(address));
  });

  describe('tells what is made and what is needed', () => {
    const cases: readonly [what: string, code: string, found: readonly string[]][] = [
      [
        'names at the top',
        `var a=1;let b=2;const c=3;function d(){}class E{}`,
        [
          'defines function d parse',
          'defines value a parse',
          'defines value b parse',
          'defines value c parse',
          'defines function E parse',
        ],
      ],
      ['names inside a function are its own', `(function(){var a=1;function b(){}})()`, []],
      ['a name that nobody declared', `(function(){leaked=1})()`, ['defines value leaked parse']],
      [
        'window by other names',
        `(function(w){w.a=1;self['b']=2;globalThis.c=3})(window)`,
        ['defines value a parse', 'defines value b parse', 'defines value c parse'],
      ],
      [
        'this at the top and in a plain call',
        `this.a=1;(function(){this.b=2})()`,
        ['defines value a parse', 'defines value b parse'],
      ],
      [
        'a use at once and one in a handler',
        `one();addEventListener('load',function(){two()})`,
        ['uses one parse', 'uses two later'],
      ],
      [
        'what the code makes itself',
        `later();function later(){mine()}var mine=function(){}`,
        ['defines function later parse', 'defines function mine parse'],
      ],
      ['typeof, and reading from window, need nothing', `typeof x;var y=window.z`, ['defines value y parse']],
      ['calling on window needs it', `window.z()`, ['uses z parse']],
      [
        'asked for before',
        `if(window.a)a();typeof b!=='undefined'&&b();'c' in window&&c();window.d&&window.d.e()`,
        ['uses a parse guarded', 'uses b parse guarded', 'uses c parse guarded', 'uses d parse guarded'],
      ],
      [
        'left when missing',
        `(function(){if(!window.a)return;a()})();a()`,
        ['uses a parse guarded', 'uses a parse'],
      ],
      [
        'what browsers bring',
        `new URL(location.href);alert(Math.max(1));customElements.define('x-y',class extends HTMLElement{})`,
        [],
      ],
      [
        'promises and await come later',
        `(async()=>{await 0;late()})();Promise.resolve().then(()=>later())`,
        ['uses late later', 'uses later later'],
      ],
      [
        'a parameter hides a global',
        `(function(jib){jib.go()})(own());function own(){}`,
        ['defines function own parse'],
      ],
      [
        'catch and labels',
        `try{risky()}catch(problem){problem.tell}a:for(;;){break a}`,
        ['uses risky parse guarded'],
      ],
    ];
    for (const [what, code, found] of cases)
      it(what, () => expect(lines(code, 'defines', 'uses')).to.have.members(found));

    it('of handlers written in attributes, with the element for this', () => {
      const facts = readCode(`<a href="javascript:open2()" onclick="this.blur(); go(event)">x</a>`);
      expect(facts.uses.map(({ name, when }) => `${name} ${when}`)).to.have.members([
        'go later',
        'open2 later',
      ]);
    });

    it('across the scripts of one paste', () => {
      const facts = readCode(`<script>window.q=[]</script><script>q.push(1)</script>`);
      expect(facts.uses).to.deep.equal([]);
    });
  });

  it('says where a script cannot be read, in the pasted text', () => {
    const code = '<!-- x -->\n<script>\n  var a = 1;\n  var b = ;\n</script>';
    const [problem] = readCode(code).problems;
    expect(problem).to.include({ kind: 'syntax', line: 4, column: 11 });
    expect(lineAndColumn('a\r\nb\rc\nd', 7)).to.deep.equal({ line: 4, column: 1 });
  });

  it('takes what is put into a map of the code’s own for no account', () => {
    const accounts = (code: string): string[] => inScript(code).accounts.map(({ value }) => value);
    const put = `m.set('TM-7731', 'CR-1204').set('TM-7732', function () { tally('init', 'TM-7733'); })`;
    expect(accounts(`(function () { var m = new Map(); ${put} })()`)).to.deep.equal(['TM-7733']);
    expect(accounts(`(function () { var m = new Tally(); ${put} })()`)).to.include('TM-7731');
  });

  describe('tells what is asked of the browser', () => {
    const cases: readonly [code: string, found: readonly string[]][] = [
      ['navigator.geolocation.watchPosition(show)', ['geolocation']],
      ['var at = navigator.geolocation; at.getCurrentPosition(show)', ['geolocation']],
      ['navigator.mediaDevices.getUserMedia({ video: { width: 640 }, audio: false })', ['camera']],
      ['navigator.mediaDevices.getUserMedia(constraints)', []],
      ['b.onclick = function () { navigator.clipboard.writeText("5 %") }', ['clipboard-write']],
      ['document.getElementById("film").requestFullscreen()', ['fullscreen']],
      ['window.addEventListener("unload", last); addEventListener("click", last)', ['unload']],
      ['navigator.credentials.get({ publicKey: key })', ['publickey-credentials-get']],
      ['var x = new XMLHttpRequest(); x.open("GET", "/fares", false)', ['sync-xhr']],
      ['var x = new XMLHttpRequest(); x.open("GET", "/fares", true)', []],
      ['open("/fares", "fares", false)', []],
      ['new PaymentRequest(ways, total)', ['payment']],
    ];
    for (const [code, found] of cases)
      it(code, () => expect(inScript(code).features.map(({ feature }) => feature)).to.deep.equal(found));

    it('for frames, by their attributes', () => {
      const asked = (more: string): string[] =>
        readCode(`<iframe src="https://x.example/" ${more}></iframe>`).features.map(({ feature, frame }) =>
          `${feature} ${frame ?? ''}`.trim(),
        );
      expect(asked('allow="camera *; Microphone https://x.example; usb \'none\';"')).to.deep.equal([
        'camera https://x.example/',
        'microphone https://x.example/',
      ]);
      expect(asked('allowfullscreen')).to.deep.equal(['fullscreen https://x.example/']);
      expect(asked('sandbox')).to.deep.equal([]);
    });
  });

  it('tells accounts from versions, dates, hashes and cache-busters', () => {
    const values = (code: string): string[] => readCode(code).accounts.map(({ value }) => value);
    expect(
      values(
        '<script src="https://x.example/a.js?v=3.1.2&id=1.2.3&ts=1790000000&key=2026-11-23&cb=77812345"></script>',
      ),
    ).to.deep.equal([]);
    expect(
      values('<script src="https://x.example/a.js?site=4417" data-width="300px" data-key="k-1"></script>'),
    ).to.deep.equal(['4417', 'k-1']);
    const [account] = readCode(
      '<script src="https://cdn.shop.example.com/a.js?client=C-9"></script>',
    ).accounts;
    expect(account?.domain).to.equal('example.com');
  });

  it('sees two addresses of one thing as the same', () => {
    expect(normalAddress('HTTPS://X.example/a.js?v=1&b=2&a=1#x')).to.equal(
      normalAddress('//x.EXAMPLE/a.js?a=1&b=2&_=99'),
    );
    expect(normalAddress('//x.example/a.js?id=1')).not.to.equal(normalAddress('//x.example/a.js?id=2'));
  });

  it('places every fact inside the text, and reads anything that is cut off or mixed up', () => {
    const pieces = CORPUS.map(({ code }) => code);
    const mixed = fc
      .tuple(
        fc.constantFrom(...pieces),
        fc.constantFrom(...pieces),
        fc.nat(400),
        fc.nat(400),
        fc.string({ maxLength: 5 }),
      )
      .map(([a, b, from, to, between]) => a.slice(0, from) + between + b.slice(to));
    fc.assert(
      fc.property(mixed, (code) => {
        const facts = readCode(code);
        expect(readCode(code)).to.deep.equal(facts);
        const { loads, defines, uses, needs, makes, accounts, marks, problems } = facts;
        for (const { range } of [
          ...loads,
          ...defines,
          ...uses,
          ...needs,
          ...makes,
          ...accounts,
          ...marks,
          ...problems,
        ]) {
          expect(range.start).to.be.within(0, code.length);
          expect(range.end).to.be.within(range.start, code.length);
        }
      }),
      { numRuns: 600, seed: 20261123 },
    );
  });

  it('gives up a script that calls itself without an end', () => {
    const doubling = Array.from({ length: 30 }, (_, i) => `function f${i}(){f${i + 1}();f${i + 1}()}`).join(
      '',
    );
    expect(inScript(`${doubling}f0()`).defines).to.have.length(30);
  });
});
