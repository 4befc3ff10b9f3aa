import vm from 'node:vm';
import { readCode } from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { propertyRuns } from '../support/property-runs.js';

/** What a script asks a browser to fetch, found by running it against a document that only remembers. */
function fetchedBy(code: string): string[] {
  const fetched: string[] = [];
  class FakeElement {
    readonly style: Record<string, string> = {};
    readonly attributes: Record<string, string> = {};
    src = '';
    readonly tag: string;
    constructor(tag: string) {
      this.tag = tag;
    }
    setAttribute(name: string, value: string): void {
      this.attributes[name] = value;
    }
    get parentNode(): FakeElement {
      return container;
    }
    place(element: FakeElement): FakeElement {
      if (element.tag === 'script') fetched.push(element.src || element.attributes['src']!);
      return element;
    }
    insertBefore(element: FakeElement): FakeElement {
      return this.place(element);
    }
    appendChild(element: FakeElement): FakeElement {
      return this.place(element);
    }
    append(element: FakeElement): void {
      this.place(element);
    }
    prepend(element: FakeElement): void {
      this.place(element);
    }
    after(element: FakeElement): void {
      this.place(element);
    }
  }
  const container: FakeElement = new FakeElement('head');
  const document = {
    createElement: (tag: string) => new FakeElement(tag),
    getElementsByTagName: () => [container],
    querySelector: () => container,
    head: container,
    body: container,
    currentScript: container,
  };
  const window: Record<string, unknown> = { document, Object };
  window['window'] = window['self'] = window;
  vm.runInNewContext(code, window, { timeout: 1000 });
  return fetched;
}

/** A way to write a text: as one literal, in two pieces, as a template, through a variable, with a default. */
interface Written {
  readonly before: string;
  readonly expression: string;
}

const word = fc.stringMatching(/^[a-z][a-z0-9]{0,8}$/);
const quoted = (text: string): string => `'${text}'`;

function written(text: string, name: string): fc.Arbitrary<Written> {
  const at = Math.floor(text.length / 2);
  const [left, right] = [text.slice(0, at), text.slice(at)];
  return fc.constantFrom<Written>(
    { before: '', expression: quoted(text) },
    { before: '', expression: `${quoted(left)} + ${quoted(right)}` },
    { before: `var ${name} = ${quoted(text)};`, expression: name },
    { before: `const ${name} = ${quoted(left)};`, expression: `\`\${${name}}${right}\`` },
    { before: `var ${name} = window.none${name} || ${quoted(text)};`, expression: name },
    { before: `var ${name} = { address: ${quoted(text)} };`, expression: `${name}.address` },
    { before: `var ${name} = [${quoted(left)}, ${quoted(right)}];`, expression: `${name}.join('')` },
    { before: `function ${name}() { return ${quoted(text)}; }`, expression: `${name}()` },
  );
}

const PLACED: readonly ((element: string) => string)[] = [
  (element) => `document.head.appendChild(${element});`,
  (element) => `document.body.append(${element});`,
  (element) =>
    `var first = document.getElementsByTagName('script')[0]; first.parentNode.insertBefore(${element}, first);`,
  (element) => `document.currentScript.after(${element});`,
  (element) => `document.querySelector('head').prepend(${element});`,
];

const ADDRESSED: readonly ((element: string, address: string) => string)[] = [
  (element, address) => `${element}.src = ${address};`,
  (element, address) => `${element}.setAttribute('src', ${address});`,
  (element, address) => `Object.assign(${element}, { src: ${address}, async: true });`,
  (element, address) => `${element}['src'] = ${address};`,
];

const WRAPPED: readonly ((body: string) => string)[] = [
  (body) => body,
  (body) => `(function () { ${body} })();`,
  (body) => `!function () { ${body} }();`,
  (body) => `(() => { ${body} })();`,
  (body) => `(function (window, document) { ${body} })(window, document);`,
  (body) => `function start() { ${body} }\nstart();`,
];

/** Loaders in the styles in which providers write them, and the address that each comes to. */
const loader = fc
  .record({ host: word, file: word, account: word, isBare: fc.boolean() })
  .chain(({ host, file, account, isBare }) => {
    const base = `${isBare ? '' : 'https:'}//${host}.example/${file}.js?id=`;
    return fc
      .record({
        base: written(base, 'base'),
        account: written(account, 'account'),
        place: fc.constantFrom(...PLACED),
        address: fc.constantFrom(...ADDRESSED),
        wrap: fc.constantFrom(...WRAPPED),
        declare: fc.constantFrom('var', 'let', 'const'),
      })
      .map((made) => {
        const body = [
          made.base.before,
          made.account.before,
          `${made.declare} made = document.createElement('script');`,
          made.address('made', `${made.base.expression} + ${made.account.expression}`),
          made.place('made'),
        ].join(' ');
        return { code: made.wrap(body), address: base + account, account };
      });
  });

describe('addresses that scripts put together', () => {
  it('are those that running the script asks for, however it is written', () => {
    fc.assert(
      fc.property(loader, ({ code, address }) => {
        expect(fetchedBy(code), 'running').to.deep.equal([address]);
        const { loads } = readCode(`<script>${code}</script>`);
        expect(
          loads.map((load) => [load.address, load.kind, load.by]),
          code,
        ).to.deep.equal([[address, 'script', 'script']]);
      }),
      propertyRuns(400),
    );
  });

  it('are the same in a script without tags, and never need more than the browser', () => {
    fc.assert(
      fc.property(loader, ({ code, address }) => {
        const facts = readCode(code);
        expect(facts.loads.map((load) => load.address)).to.deep.equal([address]);
        const needed = facts.uses.filter(({ name, isGuarded }) => !isGuarded && !name.startsWith('none'));
        expect(needed.map(({ name }) => name)).to.deep.equal([]);
      }),
      propertyRuns(200),
    );
  });

  it('are told within the code that they stand in', () => {
    fc.assert(
      fc.property(loader, ({ code }) => {
        const page = `<!-- before -->\n<script>\n${code}\n</script>`;
        for (const { range } of readCode(page).loads) {
          expect(range.start).to.be.at.least(page.indexOf(code));
          expect(range.end).to.be.at.most(page.indexOf(code) + code.length);
          expect(range.end).to.be.above(range.start);
        }
      }),
      propertyRuns(100),
    );
  });
});
