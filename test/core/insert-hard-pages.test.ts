import { expect } from 'chai';
import { insert, type InsertPart, type NamedPlacement } from '@pragmatica/core';
import { inChunks } from '../support/check-insertion.js';

/**
 * The Standard's corners, one page each. `1` to `4` in bars mark where the parts for the start and the end of the head
 * and of the body must stand, `<head>` and `<body>` after a mark's bar are tags that insertion writes. A placement
 * without a mark must be left out.
 */
const PAGES: Readonly<Record<string, readonly string[]>> = {
  'omitted tags': [
    '',
    'text',
    '<p>x',
    '<title>t</title>',
    '<html>',
    '<html><body>x',
    '<head><title>t</title><p>x',
    '<!doctype html><meta charset=utf-8><p>x</p>',
    '<html><meta name=a></head>x',
    '</head><p>x',
    '</body>x',
    '</html>',
    '</br>x',
    '</p>x',
  ].map(written),
  comments: [
    '<!-- a --><!doctype html><head>|1||2|</head><body>|3||4|</body>',
    '<!doctype html><!-- a --><head>|1|<!-- </head> -->|2|</head><!-- b --><body>|3|<!-- </body> -->|4|</body><!-- c -->',
    '<head>|1|<!-->|2|</head><body>|3|<!--->|4|</body>',
    '<head>|1|<!--a--!>|2|</head><body>|3|<!-- -- > </body> -->|4|</body>',
    '<head>|1|<?xml </head ?>|2|</head><body>|3|</ body>|4|</body>',
    '<head>|1|<!x </head>|2|</head><body>|3|</>|4|</body>',
    '<head>|1|<![CDATA[ </head>|2|</head><body>|3|<![CDATA[ x ]]>|4|</body>',
  ],
  'CDATA in svg and math': [
    '<head>|1||2|</head><body>|3|<svg><![CDATA[</svg></body>]]></svg>|4|</body>',
    '<head>|1||2|</head><body>|3|<math><![CDATA[ ]] > </body> ]]]></math>|4|</body>',
    '<head>|1||2|</head><body>|3|<svg><foreignObject><![CDATA[</body>]]></foreignObject></svg>|4|</body>',
  ],
  tags: [
    '<HTML><HEAD>|1||2|</HEAD><BODY>|3||4|</BODY></HTML>',
    '<head a=">" b=\'</head>\'>|1||2|</head\n><body c=">">|3||4|</body x="</body>">',
    '<head/>|1||2|</head/><body/>|3||4|</body / >',
    '<head>|1||2|</head><body>|3|<a b=c"d>|4|</body>',
    '<head>|1||2|</head><body>|3|<a ="x>|4|</body>"',
    '<head>|1||2|</head><body>|3|<a b = "</body>">|4|</body>',
    "<head>|1||2|</head><body>|3|<a b='</body>' c=\"'\">|4|</body>",
    '<head>|1||2|</head><body>|3|a < b, <3, </3 </body>, > c|4|</body>',
    '<head>|1||2|</head><body>|3|<bodyx></bodyx></bod></body-x>|4|</body>',
    '<head>|1||2|</head><body>|3|<p title=</body>>|4|</body>',
  ],
  scripts: [
    '<head>|1|<script>"</head>"</script>|2|</head><body>|3|<script>"</body>"</script>|4|</body>',
    '<head>|1||2|</head><body>|3|<script><!-- </body> --></script>|4|</body>',
    '<head>|1||2|</head><body>|3|<script><!--<script></script></body>--></script>|4|</body>',
    '<head>|1||2|</head><body>|3|<script><!--<script>--></script>|4|</body>',
    '<head>|1||2|</head><body>|3|<script><!--<script ></SCRIPT ></script>|4|</body>',
    '<head>|1||2|</head><body>|3|<script></scripty></script/>|4|</body>',
    '<head>|1||2|</head><body>|3|<script></script x="</body>">|4|</body>',
  ],
  'text elements': [
    '<head>|1|<title></head></title>|2|</head><body>|3|<textarea></body></textarea>|4|</body>',
    '<head>|1|<style></head></style>|2|</head><body>|3|<xmp></body></xmp>|4|</body>',
    '<head>|1|<noscript></head><p></noscript>|2|</head><body>|3|<noscript></body></noscript>|4|</body>',
    '<head>|1|<noframes><body></noframes>|2|</head><body>|3|<iframe></body></iframe>|4|</body>',
    '<head>|1||2|</head><body>|3|<noembed></body></noembed><title></body></title>|4|</body>',
    '<head>|1|<title></titl></title >|2|</head><body>|3||4|</body>',
  ],
  templates: [
    '<head>|1|<template></head></template>|2|</head><body>|3|<template></body></template>|4|</body>',
    '<head>|1||2|</head><body>|3|<template><template></template></body></template>|4|</body>',
    '<head>|1||2|</head><body>|3|<template><tr></body></template>|4|</body>',
    '<head>|1||2|</head><body>|3|<template><script></template></script></template>|4|</body>',
  ],
  'tables and selects, in which the end tag of the body is ignored': [
    '<head>|1||2|</head><body>|3|<table></body></table>|4|</body>',
    '<head>|1||2|</head><body>|3|<table><tr><td></body>x</table>|4|</body>',
    '<head>|1||2|</head><body>|3|<table><caption></body></caption></table>|4|</body>',
    '<head>|1||2|</head><body>|3|<table><tr><td><table></body></table></table>|4|</body>',
    '<head>|1||2|</head><body>|3|<table><colgroup><col></body></table>|4|</body>',
    '<head>|1||2|</head><body>|3|<select></body><option></select>|4|</body>',
    '<head>|1||2|</head><body>|3|<table><td><select></body></table>|4|</body>',
    '<head>|1||2|</head><body>|3|<table>|4|',
    '<head>|1||2|</head><body>|3|<object></body></object>|4|</body>',
    '<head>|1||2|</head><body>|3|<marquee><p></body></marquee>|4|</body>',
    '<head>|1||2|</head><body>|3|<button></button><p>|4|</body>',
  ],
  'svg and math': [
    '<head>|1||2|</head><body>|3|<svg><title></body></title></svg>|4|</body>',
    '<head>|1||2|</head><body>|3|<svg><style></body></style></svg>|4|',
    '<head>|1||2|</head><body>|3|<svg><p>|4|</body>',
    '<head>|1||2|</head><body>|3|<svg><font color=red>|4|</body>',
    '<head>|1||2|</head><body>|3|<div><svg></div>|4|</body>',
    '<head>|1||2|</head><body>|3|<b><svg></b>|4|</body>',
    '<head>|1||2|</head><body>|3|<p><b></p><svg><desc>x</desc></b></svg>|4|</body>',
    '<head>|1||2|</head><body>|3|<math><mi></body></mi></math>|4|</body>',
    '<head>|1||2|</head><body>|3|<svg/>|4|</body>',
    '<head>|1||2|</head><body>|3|<math><annotation-xml encoding="text/html"></body></annotation-xml></math>|4|</body>',
  ],
  'what comes after': [
    '<head>|1||2|</head><body>|3|a|4|</body>b</html>c<p>d',
    '<head>|1||2|</head><body>|3|a|4|</html>b</body>',
    '<head>|1||2|</head><title>late</title><meta name=x><body>|3||4|</body>',
    '<head>|1||2|</head><body>|3|a<body class=x>b|4|</body>',
    '<head>|1|<head class=x>|2|</head><body>|3|<head>|4|</body>',
    '<head>|1||2|</head><body>|3|<html lang=x>|4|</body>',
  ],
  framesets: [
    '<head>|1||2|</head><frameset><frame></frameset>',
    '<head>|1||2|</head><frameset></frameset><noframes><body></body></noframes>',
    '<head>|1||2|</head><body>|3|<frameset>|4|</body>',
    '<head>|1||2|</head>|3b|x<frameset>|4|',
  ],
  'quirks, white space and nulls': [
    '\n\t <!doctype html>\n<head>|1|\n|2|</head>\n<body>|3|\n|4|</body>\n',
    '<head>|1|&#32;&#9;|2|</head>&#x20;<body>|3|&#32;|4|</body>',
    '<!doctype html public "-//w3c//dtd html 3.2//en"><head>|1||2|</head><body>|3|<p><table></table>|4|</body>',
    '\ufeff<!doctype html><head>|1||2|</head><body>|3||4|</body>',
    '<head>|1||2|</head><body>|3|\0|4|</body>',
    '<head>|1||2|</head>|3b|\0x|4|',
  ],
  'pages that break off': [
    '<head>|1|<title>x',
    '<head>|1|<style>x</styl',
    '<head>|1||2|</head><body>|3|<script>x</script',
    '<head>|1||2|</head><body>|3|<script><!--<script></script>',
    '<head>|1||2|</head><body>|3|<plaintext></body>',
    '<head>|1||2|</head><body>|3|<template>',
    '<head>|1|<template><p>',
    '<head>|1||2|</head><body>|3|<svg><g>',
    '<head>|1||2|</head><body>|3|<svg><![CDATA[ x',
    '<head>|1||2|</head><body>|3|<p>|4|<!-- x',
    '<head>|1||2|</head><body>|3|<p>|4|<!x',
    '<head>|1||2|</head><body>|3|<p>|4|<p class="x',
    '<head>|1||2|</head><body>|3|<p>|4|</p',
    '<head>|1||2|</head><body>|3|<p>&am|4|',
    '<head>|1||2|</head><body>|3|<p><|4|',
    '<head>|1||2|<!-- x',
    '<!-- x',
    '<!doctype html',
  ],
};

const PLACEMENTS: readonly NamedPlacement[] = ['head-start', 'head-end', 'body-start', 'body-end'];
const parts = PLACEMENTS.map((placement, index): InsertPart => ({
  key: placement,
  placement,
  code: `<script>${index + 1}</script>`,
}));

/** Pages of omitted tags are short enough to say what they become in full. */
function written(page: string): string {
  const wanted: Readonly<Record<string, string>> = {
    '': '|1||2|<body>|3||4|',
    text: '|1||2|<body>|3|text|4|',
    '<p>x': '|1||2|<body>|3|<p>x|4|',
    '<title>t</title>': '|1|<title>t</title>|2|<body>|3||4|',
    '<html>': '<html>|1||2|<body>|3||4|',
    '<html><body>x': '<html>|1||2|<body>|3|x|4|',
    '<head><title>t</title><p>x': '<head>|1|<title>t</title>|2|<body>|3|<p>x|4|',
    '<!doctype html><meta charset=utf-8><p>x</p>':
      '<!doctype html>|1|<meta charset=utf-8>|2|<body>|3|<p>x</p>|4|',
    '<html><meta name=a></head>x': '<html>|1|<meta name=a>|2|</head><body>|3|x|4|',
    '</head><p>x': '|1||2|</head><body>|3|<p>x|4|',
    '</body>x': '|1||2|<body>|3||4|</body>x',
    '</html>': '|1||2|<body>|3||4|</html>',
    '</br>x': '|1||2|<body>|3|</br>x|4|',
    '</p>x': '</p>|1||2|<body>|3|x|4|',
  };
  // The tag of the body is ours there unless the page has it.
  return page.includes('<body>') ? wanted[page]! : wanted[page]!.replace('<body>|3|', '|3b|');
}

describe('insertion into the pages that are hard', () => {
  for (const [what, pages] of Object.entries(PAGES)) {
    describe(`with ${what}`, () => {
      for (const page of pages) {
        it(JSON.stringify(page), () => {
          const bare = page.replace(/\|\db?\|/g, '');
          const wanted = page.replace(/\|(\d)(b?)\|/g, (_, number: string, tag: string) =>
            tag ? `<body><script>${number}</script>` : `<script>${number}</script>`,
          );
          const { page: out, outcomes } = insert(bare, parts);
          expect(new TextDecoder('utf-8', { ignoreBOM: true }).decode(out)).to.equal(wanted);
          for (const [index, outcome] of outcomes.entries()) {
            expect(outcome.inserted, outcome.key).to.equal(new RegExp(`\\|${index + 1}b?\\|`).test(page));
            if (!outcome.inserted) expect(outcome.message).to.match(/^[A-Z].*\.$/);
          }
          // Byte by byte, and in JavaScript alone.
          const bytes = Buffer.from(bare);
          const single = Array.from({ length: bytes.length }, () => 1);
          expect(inChunks(bytes, single, parts, true)).to.equal(Buffer.from(wanted).toString('latin1'));
        });
      }
    });
  }
});
