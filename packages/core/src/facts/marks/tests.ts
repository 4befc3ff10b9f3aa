import type { MarkRule } from './rule.js';

const ON = `["']?(?:true|1|on|yes|enabled)\\b`;
const SWITCH =
  '(?:is|use|enable|in|with)?[-_]?(?:test|tests|testing|debug|debugging|debugger|sandbox|demo|staging|dev|development|dryrun|dry[-_]?run)(?:[-_]?(?:mode|enabled|env|environment|flag|on))?';
const PLACE = '(?:mode|env|environment|stage|server|target|api[-_]?mode|api[-_]?env)';
const NOT_LIVE = '(?:test|testing|sandbox|staging|stage|debug|development|dev|demo|uat|qa|preprod|pre-prod)';

const SWITCHED = /test|debug|sandbox|demo|staging|dev|dry/i;

const any = (pattern: string): RegExp => new RegExp(pattern, 'gi');

/** What is meant for trying things out. One more is one more line. */
export const TESTS: readonly MarkRule[] = [
  // testMode: true, data-debug="1", ?sandbox=true
  {
    kind: 'test',
    confidence: 'likely',
    hint: SWITCHED,
    pattern: any(`(?<![a-z0-9])${SWITCH}["']?\\s{0,3}[:=]\\s{0,3}${ON}`),
  },
  // environment: 'sandbox', data-mode="test", ?env=staging
  {
    kind: 'test',
    confidence: 'likely',
    hint: /mode|env|stage|server|target/i,
    pattern: any(`(?<![a-z0-9])${PLACE}["']?\\s{0,3}[:=]\\s{0,3}["']?${NOT_LIVE}(?=["'\\s&;,}>]|$)`),
  },
  // tally('set', 'debug', true), tally('debug')
  {
    kind: 'test',
    confidence: 'likely',
    hint: SWITCHED,
    pattern: any(
      `\\(\\s{0,3}(?:["']set["'],\\s{0,3})?["']${SWITCH}["']\\s{0,3}(?:,\\s{0,3}${ON}\\s{0,3})?\\)`,
    ),
  },
  // Tally.enableDebug(), Tally.debug(true)
  {
    kind: 'test',
    confidence: 'likely',
    hint: SWITCHED,
    pattern: any(
      `\\.(?:enable|start|set|use)(?:_|)(?:Debug|Test|Sandbox)(?:Mode|ging|)\\(\\s{0,3}(?:true|1)?\\s{0,3}\\)|\\.(?:debug|sandbox|testMode)\\(\\s{0,3}(?:true|1)\\s{0,3}\\)`,
    ),
  },
  // test_event_code: 'TEST12345'
  {
    kind: 'test',
    confidence: 'certain',
    hint: /test_?event/i,
    pattern: any(`\\btest_?event_?code["']?\\s{0,3}(?:[:=,]|["'],)\\s{0,3}["']?[\\w-]{3,}`),
  },
  { kind: 'test', confidence: 'certain', hint: /TEST/, pattern: /(?<=["'=])TEST-?\d{3,}(?=["'&])/g },
  // pk_test_…, test_…, …-sandbox
  {
    kind: 'test',
    confidence: 'likely',
    hint: /test|sandbox/,
    pattern:
      /(?<=["'=])(?:test|sandbox)[_-][A-Za-z0-9]{8,}(?=["'&])|(?<=["'=])[a-z]{2,6}[_-](?:test|sandbox)[_-][A-Za-z0-9]{6,}(?=["'&])/g,
  },
  // https://sandbox.…, https://….staging.…, http://localhost, http://192.168.…
  {
    kind: 'test',
    confidence: 'likely',
    hint: /\/\/[^/]{0,80}(?:sandbox|stag|test|dev|uat|qa|preprod|preview)/i,
    pattern: any(
      `(?<=//)(?:[a-z0-9-]{1,40}[.-]){0,3}(?:sandbox|staging|stage|testing|test|dev|develop|uat|qa|preprod|preview)(?:[.-][a-z0-9-]{1,40}){0,4}\\.[a-z]{2,12}(?=[/:"'\`?#\\s)]|$)`,
    ),
    isMeant: (host) => isTestHost(host.toLowerCase()),
  },
  {
    kind: 'test',
    confidence: 'certain',
    hint: /\/\/(?:localhost|127\.|0\.0|\[|10\.|192\.|172\.)|\.(?:local|internal|lan)/i,
    pattern: any(
      `(?<=//)(?:localhost|127(?:\\.\\d{1,3}){3}|0\\.0\\.0\\.0|\\[::1\\]|10(?:\\.\\d{1,3}){3}|192\\.168(?:\\.\\d{1,3}){2}|172\\.(?:1[6-9]|2\\d|3[01])(?:\\.\\d{1,3}){2}|[a-z0-9-]{1,63}\\.(?:local|internal|lan))(?=[/:"'\`?#\\s)]|$)`,
    ),
  },
];

const LABEL = /^(?:sandbox|staging|stage|testing|test|dev|develop|uat|qa|preprod|preview)\d?$/;
const ENDS_SO =
  /[a-z0-9]-(?:sandbox|staging|stage|test|dev|uat|qa)$|^(?:sandbox|staging|stage|test|dev|uat|qa)-/;

/** A host that is for trying things out: by a label of its own, its registrable domain aside. */
function isTestHost(host: string): boolean {
  const labels = host.split('.').slice(0, -2);
  return labels.some((label) => LABEL.test(label) || ENDS_SO.test(label));
}
