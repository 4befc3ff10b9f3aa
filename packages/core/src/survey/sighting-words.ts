import type { ShapeKind } from '../facts/index.js';
import { SURVEY_TEXTS } from '../texts/survey.js';
import { say } from '../texts/say.js';
import type { MatchKind, SightingMatch } from './matches.js';
import type { Sighting } from './sighting.js';
import type { Standing } from './standing.js';
import type { ItemState } from './types.js';
import { lazyTexts } from '../texts/lazy-texts.js';

const NEVER: Readonly<Partial<Record<ItemState, string>>> = lazyTexts({
  comment: () => SURVEY_TEXTS.neverRunsComment,
  'conditional-comment': () => SURVEY_TEXTS.neverRunsConditional,
  template: () => SURVEY_TEXTS.neverRunsTemplate,
  noscript: () => SURVEY_TEXTS.neverRunsNoscript,
  'inert-type': () => SURVEY_TEXTS.neverRunsType,
});

const SHAPES: Readonly<Partial<Record<ShapeKind, string>>> = lazyTexts({
  analytics: () => SURVEY_TEXTS.kindAnalytics,
  pixel: () => SURVEY_TEXTS.kindPixel,
  chat: () => SURVEY_TEXTS.kindChat,
  ads: () => SURVEY_TEXTS.kindAds,
  'pop-up': () => SURVEY_TEXTS.kindPopUp,
  booking: () => SURVEY_TEXTS.kindBooking,
  form: () => SURVEY_TEXTS.kindForm,
  consent: () => SURVEY_TEXTS.kindConsent,
  accessibility: () => SURVEY_TEXTS.kindAccessibility,
  share: () => SURVEY_TEXTS.kindShare,
  style: () => SURVEY_TEXTS.kindStyle,
  metadata: () => SURVEY_TEXTS.kindMetadata,
});

/** A match with what is said of its snippet. */
export interface NamedMatch extends SightingMatch {
  readonly name: string;
  readonly isOn: boolean;
}

/**
 * What a sighting is, how it stands to the snippets, and why it does nothing where it does nothing: a sentence or two.
 *
 * @param states - of the sighting on all its pages
 * @param twice - pages on which it stands beside the snippet's own
 * @param match - what it is an install of, with the name of the snippet and whether that is on
 */
export function sightingWords(
  sighting: Sighting,
  standing: Standing,
  states: readonly ItemState[],
  twice: number,
  match?: NamedMatch,
): string {
  const is = match
    ? matchWords(sighting, standing, match)
    : standing === 'ours'
      ? SURVEY_TEXTS.bringsOurs
      : foreignWords(sighting);
  const isDouble = twice > 0 && states.includes('active');
  const said = isDouble ? `${is} ${say(SURVEY_TEXTS.runsTwice, { count: twice })}` : is;
  // Where it runs on some page, what it does not do on others is no comfort.
  const never = states.length === 1 ? NEVER[states[0]!] : undefined;
  return never === undefined ? said : `${said} ${never}`;
}

const COPIES: Readonly<Record<Exclude<MatchKind, 'other-account'>, keyof typeof SURVEY_TEXTS>> = {
  same: 'copySame',
  reformatted: 'copyReformatted',
  'same-account': 'copyAccount',
  'same-loader': 'copyLoader',
};

function matchWords(
  { accounts }: Sighting,
  standing: Standing,
  { name: snippet, kind, account, isOn }: NamedMatch,
): string {
  if (standing === 'ours') return say(SURVEY_TEXTS.putBySnippet, { snippet });
  if (kind === 'other-account')
    return say(SURVEY_TEXTS.alteredAccount, { snippet, theirs: accounts[0]!.value, ours: account! });
  if (standing === 'altered')
    return kind === 'reformatted'
      ? say(SURVEY_TEXTS.alteredReformatted, { snippet })
      : say(SURVEY_TEXTS.alteredLoader, { snippet });
  if (!isOn) return say(SURVEY_TEXTS.copyOff, { snippet });
  return say(SURVEY_TEXTS[COPIES[kind]] as typeof SURVEY_TEXTS.copySame, { snippet });
}

function foreignWords({ kind, shape, provider }: Sighting): string {
  if (shape === 'container') return SURVEY_TEXTS.foreignContainer;
  if (provider === '' && kind !== 'element') return SURVEY_TEXTS.foreignOwn;
  const byKind =
    kind === 'frame'
      ? SURVEY_TEXTS.kindFrame
      : kind === 'element'
        ? SURVEY_TEXTS.kindElement
        : kind === 'pixel'
          ? SURVEY_TEXTS.kindPixel
          : SURVEY_TEXTS.kindScript;
  return say(SURVEY_TEXTS.foreignKnown, { kind: SHAPES[shape] ?? byKind });
}
