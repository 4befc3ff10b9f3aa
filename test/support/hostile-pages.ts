import fc from 'fast-check';

/** Tags, text and oddities that real and hostile pages are made of. */
const TAGS = (
  'html head body frameset frame base link meta title noscript noframes style script template a b i nobr font em code ' +
  'h1 h2 p div ul ol li dl dd dt pre form button object marquee applet table caption colgroup col tbody thead tfoot tr ' +
  'td th select option optgroup input textarea xmp iframe noembed plaintext svg math mi mo annotation-xml ' +
  'foreignObject desc mglyph malignmark span ruby rb rt rtc rp br hr img image x-y unknown summary center keygen param area'
).split(' ');

const ATTRIBUTES = [
  '',
  '',
  '',
  ' class="a>b"',
  " title='</body>'",
  ' x=</body',
  ' /',
  '/',
  ' type=hidden',
  ' color=red',
  ' encoding=text/html',
  ' encoding="application/xhtml+xml"',
  ' a="1" b=\'2\'',
  " b='2' a=1",
  ' =x ="y>',
  ' id=a',
  ' a=b/',
];

const ODDITIES = [
  '<!doctype html>',
  '<!DOCTYPE html PUBLIC "-//W3C//DTD HTML 4.01//EN" "http://www.w3.org/TR/html4/strict.dtd">',
  '<!doctype html public "-//w3c//dtd html 3.2//en">',
  '<!-- c -->',
  '<!-->',
  '<!--->',
  '<!--a--!>',
  '<!-- </body> -->',
  '<!--',
  '-->',
  '<?php </head> ?>',
  '</ bogus>',
  '</>',
  '<!x>',
  '<![CDATA[ x ]]>',
  '<![CDATA[</body>]]>',
  '<![CDATA[',
  ']]>',
  'text',
  ' ',
  '\n',
  '\r\n',
  '\0',
  '&#32;',
  '&#x0A',
  '&Tab;',
  '&NewLine;',
  '&nbsp;',
  '&lt;body&gt;',
  '&',
  '&#',
  '<',
  '</',
  '<3',
  'é',
  '<!--<script>',
  '</script>',
  '</style>',
  '</title>',
  '</textarea>',
  '<script>"</body>"</script>',
  '<script><!-- <script> </script> --></script>',
  '<title></body></title>',
  '<template><p></body></template>',
];

const startTag = fc
  .tuple(fc.constantFrom(...TAGS), fc.constantFrom(...ATTRIBUTES), fc.boolean())
  .map(
    ([name, attributes, upper]) => `<${upper && name.length < 4 ? name.toUpperCase() : name}${attributes}>`,
  );
const endTag = fc
  .constantFrom(...TAGS, 'body', 'body', 'html', 'table', 'template', 'select')
  .map((name) => `</${name}>`);

/** One piece of a page. */
export const pagePiece = fc.oneof(
  { weight: 6, arbitrary: startTag },
  { weight: 4, arbitrary: endTag },
  { weight: 4, arbitrary: fc.constantFrom(...ODDITIES) },
);

/** A page that no editor would write, but that a browser reads. */
export function hostilePage(maxLength: number): fc.Arbitrary<string> {
  return fc
    .tuple(
      fc.constantFrom(
        '',
        '',
        '<!doctype html>',
        '<html><head>',
        '<body>',
        '<!doctype html><html><head></head><body>',
      ),
      fc.array(pagePiece, { maxLength }),
    )
    .map(([start, pieces]) => start + pieces.join(''));
}
