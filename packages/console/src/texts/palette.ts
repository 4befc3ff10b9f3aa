import { catalogue } from '@pragmatica/core';

/** Getting anywhere by a few letters. */
export const PALETTE = catalogue('console.palette', {
  open: 'Find',
  keys: 'Ctrl K',
  keysOnMac: '⌘ K',
  openHint: 'Find anything: {keys}',
  title: 'Find anything',
  text: 'Type a few letters, choose with the arrow keys, and press Enter.',
  placeholder: 'A site, a snippet, a page of the console…',
  list: 'What was found',
  none: 'Nothing is called that. Try fewer letters.',
  loading: 'Loading',
  siteGroup: 'This site',
  snippetGroup: 'Snippets',
  doGroup: 'Do',
  sitesGroup: 'Sites',
  youGroup: 'Installation and account',
  helpGroup: 'Help',
  tab: '{section}: {tab}',
  off: 'off',
  archived: 'archived',
  publish: 'Publish: see what is not live yet',
  check: 'Check whether a snippet shows',
});
