import { catalogue } from '@pragmatica/core';

export const ADD_SITE = catalogue('cli.add-site', {
  looking: 'Looking at {address} …',
  found: '{name} answers at {address}.',
  redirected: '{typed} leads to {address}.',
  added: 'Added it as "{key}".',
  reading: 'reading its pages: {visited} of {found}',
  notRead: 'Its pages could not be read: {problem}',
  can: 'what you can do for this site: site-box (paste code into the head of all pages), domain (change where it points), files (change the files or templates), page-box (paste code into single pages)',
  cannot: 'what you cannot do',
  bothSaid: 'You named this both as possible and as not possible: {what}.',
  take: 'Use {way}.',
  others: 'These would work too: {names}.',
  limits: 'What to know about it:',
  limit: '{label}: {words}',
  toAnswer:
    'Which way suits it? Say with --can and --cannot what you can do ({what}), here or with: pragmatica site way {key}',
  way: 'find and choose how a site gets its code, in at most four questions',
  wayOfHost: 'which host, if it has several',
  sayWhichHost: 'The site has several live hosts. Choose one with --host: {hosts}.',
  ways: 'compare the ways in which pages get their code',
  needs: 'You need: {needs}',
  nextGateway:
    'Next: say which server holds the pages, and point the domain here:\n  pragmatica site edit {key} --live {host}=http://SERVER --delivery {host}=gateway',
  nextLine: 'Next: paste this once, as high as possible into the head of all pages:\n  {line}',
  nextPaste:
    'Next: say which boxes there are, and get the text for each:\n  pragmatica paste box site-head --site {key} --name "Head code"',
  nextMiddleware:
    'Next: add the package @pragmatica/middleware to your server; its README shows how, in ten lines.',
  nextFragments: 'Next: write the includes into your templates:\n  pragmatica fragments --site {key}',
  nextFolder:
    'Next: write the code into the files:\n  pragmatica insert FOLDER --site {key} --out NEW-FOLDER',
  waysExamples:
    '\nExamples:\n  pragmatica site way\n  pragmatica site way --can site-box\n  pragmatica site way --cannot site-box domain --can files',
});
