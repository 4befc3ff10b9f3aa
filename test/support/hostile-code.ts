const HALF_MEGABYTE = 512 * 1024;

function filled(text: string, length = HALF_MEGABYTE): string {
  return text.repeat(Math.ceil(length / text.length)).slice(0, length);
}

const script = (code: string): string => `<script>${code}</script>`;
const style = (css: string): string => `<style>${css}</style>`;
const numbered = (count: number, make: (i: number) => string): string =>
  Array.from({ length: count }, (_, i) => make(i)).join('');

/** Pastes that a reader with one backtracking expression or one loop in a loop does not survive, by what they are. */
export const HOSTILE_CODE: Readonly<Record<string, string>> = {
  'template literals 1,000 deep': script(`${'`${'.repeat(1000)}x${'}`'.repeat(1000)}`),
  '50 KB of plain English': filled('The quick brown fox jumps over the lazy dog, and then some. ', 50 * 1024),
  'a text doubled fifty times': script(`var a="aaaaaaaaaa";${'a=a+a;'.repeat(50)}document.write(a)`),
  'a text doubled through names': script(
    `var a0="xxxxxxxx";${numbered(30, (i) => `var a${i + 1}=a${i}+a${i};`)}document.write(a30)`,
  ),
  'an array doubled fifty times': script(`var a=[1];${'a=[...a,...a];'.repeat(50)}document.write(a)`),
  'entities without end': filled('&ampamp'),
  'comments that do not end': filled('<!--'),
  'escaped scripts one after the other': filled('<script>&lt;</script>', 200 * 1024),
  'comments that number pieces': filled('// step 2 of 3\n', 200 * 1024),
  'placeholders without end': filled('{{your account '),
  'crosses and dashes': filled('"xxxx-'),
  'hosts for testing': filled('//test.sandbox-', 200 * 1024),
  'custom properties that double': style(
    `${numbered(60, (i) => `:root{--a${i}:var(--a${i + 1}) var(--a${i + 1})}`)}a{position:fixed;right:0;bottom:var(--a0)}`,
  ),
  'comments in a style that do not end': style(filled('/*')),
  'selectors in selectors': style(filled('#a.b:not(')),
  dashes: filled('-'),
  'noscript in noscript': filled('<noscript>'),
  '45,000 globals': script(numbered(30_000, (i) => `window.a${i}=1;`)),
  '30,000 variables': script(numbered(30_000, (i) => `var a${i}=1;`)),
  'a chain of 20,000 names': script(
    `${numbered(20_000, (i) => `var a${i}=${i === 0 ? 'window' : `a${i - 1}`};`)}a19999.x=1`,
  ),
  'fields that do not end': style(filled('@{aaa')),
  'one field that does not end': style(`@{${filled('a')}`),
  '12,000 nested div': '<div>'.repeat(12_000),
  'tables in tables': filled('<table><tr><td>'),
  'formatting that is opened again and again': filled('<b>'),
  'links that close each other': filled('<a><p>', 200 * 1024),
  'svg in svg': filled('<svg><foreignObject>'),
  'a selector of 20,000 classes': style(`${'.a'.repeat(20_000)}{color:red}`),
  '50,000 brackets': script('('.repeat(50_000)),
  '20,000 arrays in arrays': script(`a=${'['.repeat(20_000)}${']'.repeat(20_000)}`),
  '10,000 functions in functions': script(`${'function a(){'.repeat(10_000)}${'}'.repeat(10_000)}`),
  '100,000 properties of properties': script(`a${'.b'.repeat(100_000)}`),
  '100,000 calls of calls': script(`a${'()'.repeat(100_000)}`),
  '130,000 texts added up': script(`x=${'"a"+'.repeat(130_000)}"b"`),
  'backticks only': script(filled('`')),
  'blocks that do not end': style(filled('a{')),
  'addresses that do not end': style(filled('a{b:url(')),
  'data that does not end': `<script type="application/json">${filled('{"a":')}</script>`,
  '20,000 writes': script('document.write("<div>");'.repeat(20_000)),
  'conditional comments': filled('<!--[if IE]>'),
  'white space': `<p>${filled(' ')}`,
  'a word without end': filled('a'),
  'addresses only': filled('https://a.example/x '),
  'a provider’s sentence without end': filled('in the head before the closing body tag, step 1 of '),
};

/** The longest that reading any of them may take on a machine that is slow and busy; most take milliseconds. */
export const READING_LIMIT_MS = 20_000;
