import { catalogue } from '@pragmatica/core';

export const POLICY = catalogue('cli.policy', {
  description: 'the content policy (CSP) of a site’s pages: what it has to allow, on trial or enforced',
  show: 'what pages have, what snippets need, what browsers report',
  try: 'send the policy on trial: browsers report what it would block, and block nothing',
  enforce: 'have browsers block what the policy does not allow',
  off: 'send no policy; pages keep the one they have',
  allow: 'allow a source on every page that gets the site’s own policy',
  deny: 'remove a source again',
  clear: 'forget the reports so far, to see what still comes',
  fresh: 'rebuild the policy from the newest survey; what you allowed stays',
  untried: 'enforce it though it was not on trial before',
  line: 'the one line',
  host: 'the host; the site’s first live one unless you name another',
  examples: `
The safe way round:
  pragmatica policy            what each kind of page needs
  pragmatica policy try        visitors’ browsers report for a few days, nothing is blocked
  pragmatica policy            read the reports; allow what belongs there
  pragmatica policy allow script-src files.example
  pragmatica policy enforce    when no more reports come

Sources with quotes need quoting on the command line: pragmatica policy allow script-src "'self'"`,
  noHost: 'The site has no host yet. Add one first: pragmatica site host',
  mode: '{host}: {mode, select, off {no policy sent} report {policy on trial, nothing is blocked} other {policy enforced}}',
  notSent:
    'Pages of {host} come by another way than the gateway ({way}). Set the policy below where the site’s own server sets its headers.',
  noSurvey:
    'No survey of {host} yet, so what its own pages load is unknown. Run one before you enforce anything: pragmatica survey',
  noRelease: 'Nothing is published yet, so no snippet needs anything.',
  needs: 'What the snippets need',
  needsNothing: 'Nothing: no snippet that is on loads or runs anything a policy could block.',
  present: 'What pages have now',
  presentNone: 'No page the survey read has a content policy.',
  presentRow:
    '{pages, plural, one {# page} other {# pages}} like {example}, from {from, select, header {the header} other {a meta tag}}{trial, select, true {, on trial} other {}}',
  stops: 'Blocks {names}.',
  needsNonce: 'Lets {names} in only with a nonce.',
  fitsAll: 'Allows everything the snippets need.',
  own: 'Policy for pages without one{proposed, select, true { (proposed)} other {}}',
  allowedToo: '  on all pages, as you allowed: {directive} {source}',
  kinds: 'Policy of each kind of page',
  kind: '{pages, plural, one {# page} other {# pages}} like {example} ({type})',
  reports: 'What browsers report',
  reportsNone: 'No reports yet.',
  allowHint: '  Allow it: pragmatica policy allow {directive} "{source}"',
  trialOn:
    'On trial on {host}. Browsers report what the policy would block; nothing is blocked. Look again in a few days: pragmatica policy',
  enforced: 'Enforced on {host}. What the policy does not allow is blocked from now on.',
  offNow: 'No policy is sent for {host} any more. Pages keep the one they have.',
  allowed: '{directive} allows {source} from now on.',
  denied: '{directive} allows {source} no more.',
  already: '{directive} allows {source} already.',
  notThere: '{directive} does not list {source}.',
  cleared: 'Reports of {host} forgotten.',
});
