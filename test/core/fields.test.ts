import { parse } from 'acorn';
import {
  fieldUses,
  fieldValueProblem,
  filledCode,
  sourceRange,
  planPage,
  runChecks,
  difference,
  type Field,
  type FieldType,
  type Limits,
} from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { parseFragment, serialize, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { propertyRuns } from '../support/property-runs.js';
import { load, part, set, snippet } from '../support/sets.js';

const textField = (value: string, type: FieldType = 'text'): Field => ({
  name: 'x',
  label: 'X',
  type,
  value,
});

/** The first element of a name, and its attributes by name. */
function element(code: string, name: string): { attributes: Record<string, string>; text: string } {
  const find = (node: Tree.Node): Tree.Element | undefined => {
    if (node.nodeName === name) return node as Tree.Element;
    for (const child of 'childNodes' in node ? node.childNodes : []) {
      const found = find(child);
      if (found) return found;
    }
    return undefined;
  };
  const found = find(parseFragment(code))!;
  return {
    attributes: Object.fromEntries(found.attrs.map((attribute) => [attribute.name, attribute.value])),
    text: found.childNodes.map((node) => ('value' in node ? node.value : '')).join(''),
  };
}

/** What the one string, or template, of a script says when it runs. */
function scriptString(script: string): unknown {
  const program = parse(script, { ecmaVersion: 'latest' }) as unknown as {
    body: { expression: { right: { value?: unknown; quasis?: { value: { cooked: string } }[] } } }[];
  };
  expect(program.body).to.have.length(1);
  const { right } = program.body[0]!.expression;
  return right.quasis ? right.quasis[0]!.value.cooked : right.value;
}

/** Code with a field in it, and how what it says is read out of the code as a browser does. */
const PLACES: Readonly<Record<string, readonly [code: string, read: (code: string) => unknown]>> = {
  text: ['<p>@{x}</p>', (code) => element(code, 'p').text],
  attribute: [`<p title="@{x}">a</p>`, (code) => element(code, 'p').attributes['title']],
  'attribute, other quotes': [`<p title='@{x}'>a</p>`, (code) => element(code, 'p').attributes['title']],
  'part of an address': [
    `<img src="https://a.example/?id=@{x}&b=1">`,
    (code) => new URL(element(code, 'img').attributes['src']!).searchParams.get('id'),
  ],
  'script, double quotes': [
    `<script>a = "@{x}";</script>`,
    (code) => scriptString(element(code, 'script').text),
  ],
  'script, single quotes': [
    `<script>a = '@{x}';</script>`,
    (code) => scriptString(element(code, 'script').text),
  ],
  'script, template': ['<script>a = `@{x}`;</script>', (code) => scriptString(element(code, 'script').text)],
  'script, a value': [`<script>a = @{x};</script>`, (code) => scriptString(element(code, 'script').text)],
  'script, in an address': [
    `<script>a = 'https://a.example/?id=@{x}&b=1';</script>`,
    (code) => new URL(scriptString(element(code, 'script').text) as string).searchParams.get('id'),
  ],
  'script, in an attribute': [
    `<button onclick="a = '@{x}'">b</button>`,
    (code) => scriptString(element(code, 'button').attributes['onclick']!),
  ],
  'JSON, a string': [
    `<script type="application/json">{"a": "@{x}"}</script>`,
    (code) => (JSON.parse(element(code, 'script').text) as { a: unknown }).a,
  ],
  'JSON, a value': [
    `<script type="application/ld+json">{"a": @{x}}</script>`,
    (code) => (JSON.parse(element(code, 'script').text) as { a: unknown }).a,
  ],
};

describe('fields in code', () => {
  const nasty = fc.constantFrom(
    ...[
      '</script>',
      '<!--',
      '"',
      "'",
      '`',
      '${a}',
      '\\',
      '&amp;',
      '&',
      '<b>',
      '\u2028',
      '%',
      '?',
      '#',
      '+',
      ' ',
      'é',
      '😀',
      ']]>',
      '@{x}',
    ],
  );
  const values = fc
    .array(fc.oneof(nasty, fc.string({ maxLength: 3 })), { maxLength: 5 })
    .map((pieces) => pieces.join(''));

  for (const [name, [code, read]] of Object.entries(PLACES))
    it(`are said as they are, whatever they hold: ${name}`, () => {
      fc.assert(
        fc.property(values, (value) => {
          if (fieldValueProblem('text', value) !== undefined || value.trim() !== value) return;
          const filled = filledCode(code, [textField(value)], 'live');
          expect(read(filled), filled).to.equal(value);
          // Around it nothing is another: with a plain word in its place there are the same elements.
          const shape = (text: string): string =>
            serialize(parseFragment(text))
              .replace(/>[^<]*/g, '>')
              .replace(/"[^"]*"/g, '');
          if (!code.includes('<p>'))
            expect(shape(filled).match(/<\w+/g)).to.deep.equal(
              shape(code.replace('@{x}', '1')).match(/<\w+/g),
            );
        }),
        propertyRuns(150),
      );
    });

  it('of other types stand as they are where scripts take them', () => {
    const filled = (code: string, value: string, type: FieldType) =>
      filledCode(code, [textField(value, type)], 'live');
    expect(filled('<script>a = { wait: @{x} };</script>', '2.5', 'number')).to.include('wait: 2.5 }');
    expect(filled('<script>a = { test: @{x} };</script>', 'true', 'flag')).to.include('test: true }');
    expect(filled('<script>a = @{x};</script>', '#fff', 'colour')).to.include('a = "#fff";');
    expect(filled('<p style="color:@{x}">a</p>', '#12303a', 'colour')).to.include('color:#12303a');
    expect(filled('<a href="@{x}">a</a>', 'https://a.example/?b=1&c=2', 'url')).to.include(
      'href="https://a.example/?b=1&amp;c=2"',
    );
    expect(filled('<p data-id=@{x}>a</p>', 'TM-1', 'id')).to.include('data-id=TM-1>');
  });

  it('are refused where nothing safe can be written, and then stay as they are written', () => {
    for (const code of [
      '<script>/* @{x} */</script>',
      '<script>var a@{x} = 1;</script>',
      '<script>var @{x} = 1;</script>',
      '<script>a.@{x} = 1;</script>',
      '<script>a = /@{x}/;</script>',
      '<script>a = { @{x}: 1 };</script>',
      '<script type="text/x-other">@{x}</script>',
      '<!-- @{x} -->',
      '<p @{x}>a</p>',
      '<@{x}>a</p>',
      '<p srcdoc="@{x}">a</p>',
    ]) {
      expect(
        fieldUses(code).map(({ place }) => place.kind),
        code,
      ).to.deep.equal(['refused']);
      expect(filledCode(code, [textField('a')], 'live')).to.equal(code);
    }
    const bare = '<p data-id=@{x}>a</p>';
    expect(filledCode(bare, [textField('a b')], 'live'), 'a space would end it').to.equal(bare);
    const link = '<a href="@{x}">a</a>';
    expect(filledCode(link, [textField('javascript:alert(1)')], 'live'), 'no address').to.equal(link);
  });

  it('have types that say what fits', () => {
    for (const [type, good, bad] of [
      ['text', 'Ask us', 'two\nlines'],
      ['id', 'TM-1887', 'TM 1887'],
      ['number', '-2.5', 'two'],
      ['flag', 'true', 'yes'],
      ['colour', 'rgb(1, 2, 3)', 'red;}'],
      ['url', 'https://a.example/', 'a.example'],
      ['phone', '+353 1 555 0100', 'call me'],
    ] as const) {
      expect(fieldValueProblem(type, good), type).to.equal(undefined);
      expect(fieldValueProblem(type, bad), type).to.be.a('string');
    }
  });
});

describe('a site’s fields', () => {
  const CODE = '<script async src="https://tallymast.example/count.js?id=@{account}"></script>';
  const made = (fields: Field[]) => {
    const base = set(snippet('counter', { parts: [part('head-end', 0, CODE)] }));
    return { ...base, site: { ...base.site, fields } };
  };
  const account: Field = {
    name: 'account',
    type: 'id',
    label: 'Account',
    example: 'TM-0000',
    value: 'TM-1',
    staging: 'TM-9',
  };

  it('are filled in by environment', () => {
    const codeOn = (environment: 'live' | 'staging'): string =>
      planPage(made([account]), load('/', { environment })).parts[0]!.code;
    expect(codeOn('live')).to.include('id=TM-1"');
    expect(codeOn('staging')).to.include('id=TM-9"');
  });

  it('are what the checks see, and are checked themselves', () => {
    const found = (fields: Field[]) =>
      runChecks(made(fields)).map(({ check, title }) => `${check}: ${title}`);
    expect(found([account])).to.deep.equal([]);
    expect(found([])).to.include('field-problem: “COUNTER”: the field “account” is not defined');
    const unset: Field = { name: 'account', type: 'id', label: 'Account', example: 'TM-0000' };
    expect(found([unset])[0]).to.equal('field-example: “COUNTER”: “Account” is still the example, TM-0000');
    expect(found([{ ...account, value: 'YOUR_ACCOUNT_ID' }]).join()).to.include('placeholder');
  });

  it('are seen by the checks as they are where the code runs', () => {
    const fields: Field[] = [{ ...account, staging: 'YOUR_ACCOUNT_ID' }];
    const found = (limits?: Limits): string[] => {
      const set = made(fields);
      const snippets = set.snippets.map((one) => ({ ...one, ...(limits ? { limits } : {}) }));
      return runChecks({ ...set, snippets }).map(({ check }) => check);
    };
    expect(found()).not.to.include('placeholder');
    expect(found({ environment: 'staging' })).to.include('placeholder');
  });

  it('left at their example matter where the code runs', () => {
    const event = (
      field: Partial<Field>,
      limits?: Limits,
      hosts?: readonly ('live' | 'staging')[],
    ): string[] => {
      const set = made([{ name: 'account', type: 'id', label: 'Account', example: 'TM-0000', ...field }]);
      const snippets = set.snippets.map((one) => ({ ...one, ...(limits ? { limits } : {}) }));
      const known = hosts?.map((environment) => ({ host: `${environment}.test`, environment }));
      return runChecks({ ...set, snippets }, known ? { hosts: known } : {})
        .filter(({ check }) => check === 'field-example')
        .map(({ severity, title }) => `${severity}: ${title}`);
    };
    const live = '“COUNTER”: “Account” is still the example, TM-0000';
    expect(event({})).to.deep.equal([`error: ${live}`]);
    expect(event({ live: 'TM-1' })).to.deep.equal([`warning: ${live}, on staging`]);
    expect(event({ live: 'TM-1' }, { environment: 'live' })).to.deep.equal([]);
    expect(event({ live: 'TM-1' }, undefined, ['live'])).to.deep.equal([]);
    expect(event({ staging: 'TM-1' }, undefined, ['live', 'staging'])).to.deep.equal([`error: ${live}`]);
    expect(event({ staging: 'TM-1' }, { environment: 'staging' })).to.deep.equal([]);
  });

  it('are named in the difference of two releases', () => {
    const changes = difference(made([account]), made([{ ...account, value: 'TM-2' }]));
    expect(changes.map(({ message }) => message)).to.deep.equal([
      'The field “account” is now “TM-2” on live; before, “TM-1”.',
    ]);
  });

  it('are found again at their places in the code as it is written, a field counting as a whole', () => {
    const text = fc.stringMatching(/^[a-z ]{0,5}$/);
    fc.assert(
      fc.property(
        fc.tuple(text, text, text),
        text,
        fc.nat(40),
        fc.nat(10),
        ([a, b, c], value, at, length) => {
          const code = `<p>${a}@{x}${b}@{x}${c}</p>`;
          const fields = [textField(value)];
          const filled = filledCode(code, fields, 'live');
          const start = Math.min(at, filled.length);
          const end = Math.min(start + length, filled.length);
          const found = sourceRange(code, fields, 'live', { start, end });
          const shown = code.slice(found.start, found.end);
          expect(found.start).to.be.at.most(found.end);
          // What was cut out of the filled-in code is in it, and nothing beyond the fields that it touches.
          expect(filledCode(shown, fields, 'live')).to.include(filled.slice(start, end));
          expect(shown.replaceAll('@{x}', '').length).to.be.at.most(end - start);
        },
      ),
      propertyRuns(500),
    );
  });
});
