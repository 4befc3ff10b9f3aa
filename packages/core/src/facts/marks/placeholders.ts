import type { MarkRule } from './rule.js';

/** What instructions ask for. */
const NOUN =
  '(?:ids?|keys?|code|account|tokens?|domain|site|host|name|number|company|workspace|property|pixel|tag|container|user|email|url|api|calendar|form|widget|project|org|organi[sz]ation|tracking|measurement|shop|store|app|client|customer|partner|publisher|room|team|uuid)';
/** The start of a value: a quote, an equals sign, a step of an address. */
const STARTS = `(?<=["'\`=/:(>-])`;
const ENDS = `(?=["'\`&/?#;,)<\\s.-]|$)`;
/** One or more words, of which one is asked for: `account id`, `YOUR-SITE`. */
const WORDS = `(?:[a-z]{1,20}[ _-]){0,4}${NOUN}(?:[ _-][a-z]{1,20}){0,4}`;

const upper = (pattern: string): RegExp => new RegExp(pattern, 'g');
const any = (pattern: string): RegExp => new RegExp(pattern, 'gi');
const isUpper = (found: string): boolean => !/[a-z]/.test(found) && /[A-Z]{2}/.test(found);

/** Values that stand for one's own. One more is one more line. */
export const PLACEHOLDERS: readonly MarkRule[] = [
  // YOUR_ACCOUNT_ID, INSERT-KEY-HERE
  {
    kind: 'placeholder',
    confidence: 'certain',
    hint: /(?:YOUR|MY|INSERT|ENTER|REPLACE|ADD|CHANGE|PUT|PASTE|FILL)[_-]/,
    pattern: upper('\\b(?:YOUR|MY|INSERT|ENTER|REPLACE|ADD|CHANGE|PUT|PASTE|FILL)[_-][A-Z][A-Z0-9_-]*\\b'),
  },
  // your-account-id, enter_key_here, yourAccountId, YourDomain
  {
    kind: 'placeholder',
    confidence: 'certain',
    hint: /your|insert|enter|replace/i,
    pattern: any(
      `(?<![a-z])(?:your|insert|enter|replace)[-_]?(?:own[-_]?|with[-_]?)?(?:[a-z]{1,12}[-_]){0,3}${NOUN}(?:[-_]?(?:${NOUN}|here|goes|in)){0,3}\\b(?=["'\`&/?#.@;<\\s]|$)`,
    ),
    isMeant: (found) => !/^(?:enter|insert|replace)(?![-_])/i.test(found) && found.length > 6,
  },
  // "Your account ID", as a value and not as a label
  {
    kind: 'placeholder',
    confidence: 'certain',
    hint: /your/i,
    pattern: any(
      `(?<=[\\w"']\\s{0,2}[:=]\\s{0,2}["'\`])(?<!(?:placeholder|label|title|alt|text|aria-label|message|hint|heading)["']?\\s{0,2}[:=]\\s{0,2}["'\`])(?:your|enter your|insert your|put your|paste your)(?: own)?(?: [a-z]{1,12}){0,2} (?:ids?|keys?|token|code|domain|account|number|url|name)(?: here)?(?=["'\`])`,
    ),
  },
  // {{ACCOUNT_ID}}, {Your ID}, [SITE-ID], <account id>, %ACCOUNT%, __ID__, ${ACCOUNT_ID} outside of templates
  {
    kind: 'placeholder',
    confidence: 'certain',
    hint: /your|insert|enter|replace/i,
    pattern: any(
      `\\{\\{?\\s*(?:your|insert|enter|replace)\\b[^{}]{0,60}\\}?\\}|\\[\\[?(?:your|insert|enter)\\b[^\\]]{0,60}\\]|<(?:your|insert|enter)[ _-][^<>]{0,60}>`,
    ),
  },
  {
    kind: 'placeholder',
    confidence: 'certain',
    hint: /\{\{/,
    pattern: any(`${STARTS}\\{\\{\\s?${WORDS}\\s?\\}\\}${ENDS}`),
  },
  {
    kind: 'placeholder',
    confidence: 'certain',
    hint: /[{[][A-Za-z _-]{2,99}[}\]]/,
    pattern: any(`${STARTS}(?:\\{${WORDS}\\}|\\[\\[?${WORDS}\\]\\]?)${ENDS}`),
    isMeant: (found) => !/^\[object /.test(found) && (isUpper(found) || found.includes(' ')),
  },
  {
    kind: 'placeholder',
    confidence: 'certain',
    hint: /=[{[<]/,
    pattern: any(`(?<=[?&][\\w.-]{1,30}=)(?:\\{${WORDS}\\}|\\[${WORDS}\\]|<${WORDS}>)`),
  },
  {
    kind: 'placeholder',
    confidence: 'certain',
    hint: /["'`=:(>/-]<[A-Za-z]/,
    pattern: any(`${STARTS}<${WORDS}>${ENDS}`),
    isMeant: (found) => isUpper(found) || found.includes(' ') || found.includes('_'),
  },
  {
    kind: 'placeholder',
    confidence: 'certain',
    hint: /%[A-Z]|__[A-Z]|#[A-Z]|@@|\$[A-Z]/,
    pattern: any(`${STARTS}(?:%%?|__|##?|@@|\\$\\$?)${WORDS}(?:%%?|__|##?|@@|\\$\\$?)${ENDS}`),
    isMeant: isUpper,
  },
  // ACCOUNT_ID, API-KEY, SITE_KEY_HERE
  {
    kind: 'placeholder',
    confidence: 'likely',
    hint: /[A-Z]{2}[_-]?(?:ID|KEY|CODE|TOKEN|NUMBER|NAME|UUID)/,
    pattern: upper(
      `(?<=["'\`=/])(?:ACCOUNT|SITE|TRACKING|MEASUREMENT|PIXEL|CONTAINER|PROPERTY|CLIENT|CUSTOMER|API|APP|WORKSPACE|PROJECT|WIDGET|FORM|CALENDAR|TAG|PARTNER|PUBLISHER|COMPANY|ORG)[_-]?(?:ID|KEY|CODE|TOKEN|NUMBER|UUID)(?=["'\`&/?])`,
    ),
  },
  {
    kind: 'placeholder',
    confidence: 'certain',
    hint: /here/i,
    pattern: upper(`(?<=["'\`=/])[A-Za-z][\\w-]{0,40}[-_](?:HERE|here)(?=["'\`&/?])`),
  },
  {
    kind: 'placeholder',
    confidence: 'certain',
    hint: /change|replace|fill|to[-_]?do|tbd|fixme/i,
    pattern: any(
      `(?<=["'\`=/])(?:change[-_]?me|replace[-_]?me|fill[-_]?me[-_]?in|to[-_]?do|tbd|fixme)(?=["'\`&/?])`,
    ),
  },
  // TM-XXXX-X, xxxxxxxx-xxxx, pk_live_xxxx
  {
    kind: 'placeholder',
    confidence: 'certain',
    hint: /xxxx/i,
    pattern: any(`(?<=["'\`=/-])(?:[a-z]{1,6}[-_.]){0,3}x{4,}(?:[-_.]x+)*(?=["'\`&?/.-]|$)`),
    isMeant: (found) => !/^x{4,}$/.test(found) || found.length >= 4,
  },
  {
    kind: 'placeholder',
    confidence: 'certain',
    hint: /xx/i,
    pattern: any(
      `(?<=["'\`=/])(?:[a-z]{1,6}[-_])x{2,}(?:[-_]x+)+(?=["'\`&?/]|$)|(?<=["'\`=/])(?:[a-z]{1,6}[-_])x{3}(?=["'\`&?/]|$)`,
    ),
    isMeant: (found) => !/^(?:font|text|size|is|btn|col|icon|gap|p|m)[-_]/i.test(found),
  },
  // https://your-site.…, https://example.com
  {
    kind: 'placeholder',
    confidence: 'certain',
    hint: /\/\/(?:www\.)?(?:your|my)/i,
    pattern: any(
      `(?<=//)(?:www\\.)?(?:your|my)[-_]?(?:own[-_]?)?(?:domain|site|website|company|shop|store|server|host|business)(?:[-_]?(?:name|here))?(?=[./:"'\`?#]|$)`,
    ),
  },
];

/** An account that instructions show: all zeros or ones, a count, the alphabet. */
const EXAMPLE_ACCOUNT =
  /^(?:(?:[a-z]{1,5}-)?(?:0{5,}(?:-0+)*|1{6,}|9{6,}|123456(?:7(?:8(?:9(?:0|10)?)?)?)?(?:-1)?)|[a-z]{2,5}-12345|abcdef(?:123456)?|abc-?123(?:4(?:56?)?)?|abcd-?1234|example[-_]?(?:id|key|account|token)|(?:id|key|account|token)[-_]?example|0{8}-0{4}-0{4}-0{4}-0{12}|12345678-1234-[\da-f-]{22})$/i;

/** Whether an account is one that only instructions have. */
export function isExampleAccount(value: string): boolean {
  return EXAMPLE_ACCOUNT.test(value);
}
