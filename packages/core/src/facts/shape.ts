import { hostOf } from './addresses.js';
import type { Facts, Shape, ShapeKind, Confidence } from './types.js';
import { SHAPE_TEXTS } from '../texts/shape.js';

type Unshaped = Omit<Facts, 'shape'>;

/** What it is told by. */
type Because = keyof typeof SHAPE_TEXTS;

interface ShapeRule {
  readonly kind: ShapeKind;
  readonly confidence: Confidence;
  /** What it is told by; undefined where it does not fit. */
  fits(facts: Unshaped, code: string): Because | undefined;
}

/** Whether one of the code's own names, addresses or attributes speaks of something. */
function says(code: string, facts: Unshaped, pattern: RegExp): boolean {
  const names = [
    ...facts.loads.map(({ address }) => address),
    ...facts.defines.map(({ name }) => name),
    ...facts.uses.map(({ name }) => name),
    ...facts.makes.map(({ id }) => id),
    ...facts.needs.map(({ selector }) => selector),
    ...facts.settings.flatMap(({ name, keys }) => [name, ...keys]),
    ...[...code.matchAll(/\b(?:class|id|data-[\w-]+|aria-label|title)=["']([^"']*)/g)].map(
      (match) => match[0],
    ),
    ...comments(code),
  ];
  return names.some((name) => pattern.test(name));
}

/** The texts of comments that end. */
function comments(code: string): string[] {
  const texts: string[] = [];
  for (let from = code.indexOf('<!--'); from >= 0;) {
    const end = code.indexOf('-->', from + 4);
    if (end < 0) break;
    texts.push(code.slice(from + 4, end));
    from = code.indexOf('<!--', end + 3);
  }
  return texts;
}

const onlyPieces = (facts: Unshaped, kinds: readonly string[]): boolean =>
  facts.pieces.length > 0 &&
  facts.pieces.some(({ kind }) => kind !== 'comment') &&
  facts.pieces.every(({ kind }) => kind === 'comment' || kinds.includes(kind));

const said =
  (pattern: RegExp, words: Because) =>
  (facts: Unshaped, code: string): Because | undefined =>
    says(code, facts, pattern) ? words : undefined;

/** By structure first, then by the words in the code's own names; never by who made it. The first that fits holds. */
const RULES: readonly ShapeRule[] = [
  {
    kind: 'metadata',
    confidence: 'certain',
    fits: (facts) =>
      onlyPieces(facts, ['data', 'meta']) ||
      (onlyPieces(facts, ['data', 'meta', 'link']) && facts.loads.every(({ kind }) => kind === 'hint'))
        ? 'onlyTellsMachines'
        : undefined,
  },
  {
    kind: 'style',
    confidence: 'certain',
    fits: (facts) =>
      facts.language === 'css' || onlyPieces(facts, ['style', 'link']) ? 'onlyHoldsLoads' : undefined,
  },
  {
    kind: 'consent',
    confidence: 'likely',
    fits: said(
      /consent|cookie-?(bar|banner|notice|law|question)|gdpr|auto-?block(ing)?\b|blocking-?mode|tcf(api)?\b/i,
      'namesSpeakConsent',
    ),
  },
  {
    kind: 'accessibility',
    confidence: 'likely',
    fits: said(/accessib|a11y|larger-?text|contrast/i, 'namesSpeakAccessibility'),
  },
  {
    kind: 'chat',
    confidence: 'likely',
    fits: said(/chat|messenger|livehelp|live-?support|helpdesk/i, 'namesSpeakChatting'),
  },
  {
    kind: 'booking',
    confidence: 'likely',
    fits: said(
      /\bbook(ing|now|-?button|-?widget)?\b|calendar|reserv|appointment|schedul|availability/i,
      'namesSpeakBooking',
    ),
  },
  {
    kind: 'pop-up',
    confidence: 'likely',
    fits: said(/pop-?up|modal|overlay|nudge|exit-?intent|lightbox/i, 'namesSpeakSomething'),
  },
  {
    kind: 'share',
    confidence: 'likely',
    fits: said(
      /\bshare\b|share-?(button|bar|count)|sharing|social-?(share|bar|button)/i,
      'namesSpeakSharing',
    ),
  },
  {
    kind: 'container',
    confidence: 'likely',
    fits: (facts) => {
      const queue = facts.defines.find(({ isStub, what }) => isStub && what === 'array');
      const isTwoPieces = facts.loads.some(({ noScript, kind }) => noScript && kind === 'frame');
      const starts = facts.events.some(({ name }) => /start|\bjs$/i.test(name));
      if (queue && facts.loads.some(({ kind }) => kind === 'script') && (isTwoPieces || starts))
        return 'startsQueueLoads';
      return isTwoPieces && facts.loads.length === 1 ? 'frameBrowsersWithout' : undefined;
    },
  },
  {
    kind: 'form',
    confidence: 'likely',
    fits: (facts) => (facts.pieces.some(({ name }) => name === 'form') ? 'holdsForm' : undefined),
  },
  {
    kind: 'form',
    confidence: 'likely',
    fits: said(
      /newsletter|subscribe|sign-?up|signup|mailing|(^|[^a-z])form(s|hatch)?([^a-z]|$)/i,
      'namesSpeakForm',
    ),
  },
  {
    kind: 'ads',
    confidence: 'likely',
    fits: (facts, code) =>
      says(code, facts, /(^|[^a-z])ads?([^a-z]|$)|advert|banner|sponsor|ad-?slot/i)
        ? 'namesSpeakAdverts'
        : undefined,
  },
  {
    kind: 'pixel',
    confidence: 'likely',
    fits: (facts, code) => {
      // What stands in the code itself tells nobody anything.
      const image = facts.loads.some(({ kind, address }) => kind === 'image' && !/^data:/i.test(address));
      if (
        onlyPieces(facts, ['noscript', 'content']) &&
        image &&
        /width=["']?1\b|height=["']?1\b|display:\s*none/i.test(code)
      )
        return 'invisibleImageTells';
      const stub = facts.defines.some(({ isStub, what }) => isStub && what === 'function');
      if (facts.loads.some(({ kind, noScript }) => kind === 'image' && noScript)) return 'hasInvisibleImage';
      return (stub && facts.events.length > 0) || says(code, facts, /pixel|conversion|retarget|remarket/i)
        ? 'reportsEventsMaker'
        : undefined;
    },
  },
  {
    kind: 'analytics',
    confidence: 'likely',
    fits: (facts, code) =>
      says(
        code,
        facts,
        /analytic|count(er)?([^a-z]|$)|stat(s|istics)|track|visits?([^a-z]|$)|metric|measure|insight|tally/i,
      )
        ? 'namesSpeakCounting'
        : undefined,
  },
  {
    kind: 'container',
    confidence: 'likely',
    fits: ({ loads }) =>
      loads.filter(({ kind }) => kind === 'script').length === 1 &&
      loads.some(({ noScript, kind }) => noScript && kind === 'frame')
        ? 'loadsOneScript'
        : undefined,
  },
  {
    kind: 'analytics',
    confidence: 'guess',
    fits: (facts) => {
      const scripts = facts.loads.filter(
        ({ kind, address }) => kind === 'script' && hostOf(address) !== undefined,
      );
      const shows =
        facts.boxes.length > 0 ||
        facts.needs.length > 0 ||
        facts.pieces.some(({ kind }) => kind === 'content' || kind === 'frame');
      return scripts.length === 1 && !shows && facts.accounts.length > 0
        ? 'loadsOneScriptAccount'
        : undefined;
    },
  },
  {
    kind: 'pop-up',
    confidence: 'guess',
    fits: (facts) => (facts.boxes.length > 0 ? 'putsBoxOver' : undefined),
  },
];

/** Which kind of thing the code looks like. */
export function shapeOf(facts: Unshaped, code: string): Shape {
  for (const rule of RULES) {
    const because = rule.fits(facts, code);
    if (because !== undefined) return shape(rule.kind, rule.confidence, because);
  }
  return shape('other', 'guess', 'nothingStructureSays');
}

/** Shapes are kept for readers of any language. */
function shape(kind: ShapeKind, confidence: Shape['confidence'], because: Because): Shape {
  return {
    kind,
    confidence,
    get because() {
      return SHAPE_TEXTS[because];
    },
  };
}
