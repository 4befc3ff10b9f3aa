import { catalogue } from '@pragmatica/core';

export const PLACE = catalogue('cli.place', {
  description: 'which pages have the place for your code, before you save it',
  placement:
    'head-end, inside:#an-id, "after:main > p:nth-of-type(2)"; sides are before, inside, inside-end and after. One word alone is an id',
  code: 'the code, from a file; - reads standard input. Without it, a script that does nothing',
  pages: 'only on these pages, as for a snippet',
  except: 'but not on these',
  environment: 'where the pages come from',
  host: 'one of the site’s hosts',
  examples: `
Examples:
  pragmatica place "after:main > h1"
  pragmatica place inside:.sidebar --code directory.html --pages "/fares/*"`,
  path: 'PAGE',
  result: 'PLACE',
  yes: 'yes',
  summary:
    '{with, plural, =0 {None} other {#}} of {looked, plural, one {# page} other {# pages}} {looked, plural, one {has} other {have}} this place{more, plural, =0 {} other { (of # pages that are known, some of each kind were looked at)}}.',
  none: 'No page could be checked: no matching page is known, or the site does not answer.',
});
