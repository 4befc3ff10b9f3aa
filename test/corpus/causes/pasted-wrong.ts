import { atFoot, inHead, type Cause, type CauseKind } from './cause.js';

const CODE = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';
const LINES = `<script>\n  window.tally = window.tally || [];\n  if (1 < 2 && tally) tally.push("home");\n</script>\n${CODE}`;
const escaped = (code: string): string =>
  code.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');
const curly = (code: string): string => code.replace(/"([^"]*)"/g, '“$1”');
const mail = (code: string): string =>
  `Hello,\n\nplease add the code below to your website today:\n\n${code}\n\nKind regards, the harbour office`;
const fenced = (code: string): string => `\`\`\`html\n${code}\n\`\`\``;

const wrong = (check: string, name: string, code: string, more: Partial<Cause> = {}): Cause => ({
  name,
  snippets: [atFoot('Counter', code)],
  check,
  about: ['Counter'],
  ...more,
});

/** What goes wrong between a provider's page and the box. */
export const PASTED_WRONG: CauseKind = {
  kind: 'pasted wrong',
  wrong: [
    wrong('pasted-wrong', 'Markdown’s fence is around it', fenced(LINES), { says: /backticks/ }),
    wrong('pasted-wrong', 'a fence of tildes is around it', `~~~\n${CODE}\n~~~`),
    wrong('pasted-wrong', 'one backtick is on each side', `\`${CODE}\``),
    wrong('pasted-wrong', 'a mail program quoted it', LINES.replace(/^/gm, '> '), { says: /mail/ }),
    wrong(
      'pasted-wrong',
      'its lines are numbered',
      LINES.split('\n')
        .map((line, at) => `${at + 1} ${line}`)
        .join('\n'),
      { says: /numbers/ },
    ),
    wrong(
      'pasted-wrong',
      'a zero-width space is in the script',
      '<script>window.tally\u200b = [];</script>',
      { says: /invisible/ },
    ),
    wrong(
      'pasted-wrong',
      'a whole page was pasted',
      `<!DOCTYPE html>\n<html lang="en"><head><meta charset="utf-8"><title>Install</title>${CODE}</head><body></body></html>`,
      { says: /whole page/ },
    ),
    wrong('pasted-wrong', 'a head was pasted with its tags', `<head>${CODE}</head>`, { says: /whole page/ }),
    wrong('pasted-wrong', 'script tags are doubled', `<script>${CODE}</script>`, { says: /inside another/ }),
    wrong(
      'pasted-wrong',
      'script tags are doubled around code',
      '<script>\n<script>window.tally = [];</script>\n</script>',
    ),
    wrong(
      'pasted-wrong',
      'an end tag stands in a string',
      `<script>document.write("<p>Works</p><script src='https://tallymast.example/c.js'></script>");</script>`,
      { says: /string/, also: ['late-write'] },
    ),
    wrong(
      'pasted-wrong',
      'references stand inside the script',
      '<script>if (1 &lt; 2 &amp;&amp; window.tally) tally.push("home");</script>',
      { says: /&lt;/ },
    ),
    wrong('copied-as-text', 'it is escaped as a whole', escaped(LINES)),
    wrong('copied-as-text', 'a visual editor made a paragraph of it', `<p>${escaped(CODE)}</p>`),
    wrong('curly-quotes', 'a word processor changed its quotes', curly(CODE)),
    wrong('words-around-code', 'a mail is around it', mail(CODE)),
    wrong('pasted-wrong', 'it is fenced and escaped', fenced(escaped(CODE)), { also: ['copied-as-text'] }),
    wrong('copied-as-text', 'it is fenced and escaped, of which each is told', fenced(escaped(CODE)), {
      also: ['pasted-wrong'],
    }),
    wrong('pasted-wrong', 'it is fenced and has curly quotes', fenced(curly(CODE)), {
      also: ['curly-quotes'],
    }),
    wrong('curly-quotes', 'it is fenced and has curly quotes, of which each is told', fenced(curly(CODE)), {
      also: ['pasted-wrong'],
    }),
    wrong('words-around-code', 'a mail is around it and its quotes are curly', mail(curly(CODE)), {
      also: ['curly-quotes'],
    }),
    wrong(
      'curly-quotes',
      'a mail is around it and its quotes are curly, of which each is told',
      mail(curly(CODE)),
      { also: ['words-around-code'] },
    ),
    wrong('words-around-code', 'a mail is around it and it is escaped', escaped(mail(CODE)), {
      also: ['copied-as-text'],
    }),
    wrong(
      'pasted-wrong',
      'it is quoted and has doubled tags',
      `<script>${CODE}</script>`.replace('</script>', '</script>\n').replace(/^/gm, '> '),
      { says: /quote/, also: ['pasted-wrong'] },
    ),
    wrong(
      'syntax-error',
      'it is cut off',
      '<script>window.tally = window.tally || []; tally.push({ event: "home"</script>',
      { says: /Copy the code again/ },
    ),
    wrong(
      'syntax-error',
      'a brace is too many, which copying does not help',
      '<script>window.tally = function () { count(); }};</script>',
      { says: /Compare that line/ },
    ),
    wrong('no-script-tags', 'its tags are missing', 'window.tally = window.tally || [];'),
    wrong('not-code', 'it is only a sentence', 'Please paste the code that we sent you.'),
  ],
  clean: [
    {
      name: 'code is shown on purpose',
      snippets: [atFoot('Help', `<pre><code>${escaped(CODE)}</code></pre>`)],
    },
    {
      name: 'code is shown in a text area',
      snippets: [atFoot('Embed us', `<textarea readonly id="embed">${escaped(CODE)}</textarea>`)],
    },
    {
      name: 'an attribute holds escaped markup',
      snippets: [atFoot('Notice', '<iframe title="Notice" srcdoc="&lt;div&gt;Works&lt;/div&gt;"></iframe>')],
    },
    {
      name: 'a script writes an end tag as it should',
      snippets: [
        atFoot(
          'Counter',
          '<script>window.tag = "<script src=\'https://tallymast.example/c.js\'><\\/script>";</script>',
        ),
      ],
    },
    {
      name: 'a script has template strings',
      snippets: [atFoot('Notice', '<script>\nwindow.notice = `<p>Works</p>`;\n</script>')],
    },
    {
      name: 'a script’s string has references',
      snippets: [inHead('Notice', '<script>window.notice = "Fares &amp; times";</script>')],
    },
    {
      name: 'texts have typographic quotes and soft hyphens',
      snippets: [atFoot('Notice', '<p id="note">The “Kittiwake” sails at time\u00adtable hours.</p>')],
    },
    {
      name: 'a tag goes over several lines',
      snippets: [
        inHead(
          'Counter',
          '<script\n  async\n  src="https://tallymast.example/count.js?id=TM-7731"\n></script>',
        ),
      ],
    },
    {
      name: 'a list of numbers',
      snippets: [atFoot('Times', '<p id="times">07:15<br>\n08:15<br>\n09:15</p>')],
    },
    {
      name: 'a header element',
      snippets: [atFoot('Notice', '<header id="notice"><p>Works on the slip</p></header>')],
    },
  ],
};
