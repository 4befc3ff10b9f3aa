import { consentNames } from './consent.js';
import { deviceName } from './device.js';
import { momentWords } from './hours/index.js';
import { addressWords, listWords } from './pages/index.js';
import type { PageLoad } from './page-load.js';
import type { SiteReach } from './reach.js';
import { REACH_TEXTS } from '../texts/reach.js';
import { say } from '../texts/say.js';

/** A page load that shows something, and what of it people must be told. */
export interface Witness extends PageLoad {
  readonly mentionsDevice?: boolean;
  readonly mentionsTime?: boolean;
  readonly mentionsEnvironment?: boolean;
  /** What one of them waits for has not come. */
  readonly isNotYet?: boolean;
  /** Categories that are not agreed to. */
  readonly without?: readonly string[];
}

/** "/book/confirmed, on a phone, Thursday 10:00". @param now - what "today" is */
export function witnessWords(witness: Witness, site: SiteReach, now?: number): string {
  const { page, environment, device, at, consent, visitor, width, without = [] } = witness;
  const names = (keys: readonly string[]): string => listWords(consentNames(keys, site.consent));
  return [
    addressWords(page),
    witness.mentionsEnvironment === true ? `on ${environment}` : '',
    witness.mentionsDevice === true ? say(REACH_TEXTS.device, { device: deviceName(device) }) : '',
    witness.mentionsTime === true ? momentWords(at, site.timeZone, now) : '',
    consent.length > 0 ? say(REACH_TEXTS.consentNames, { names: names(consent) }) : '',
    without.length > 0 ? say(REACH_TEXTS.withoutConsentNames, { names: names(without) }) : '',
    visitor === undefined
      ? ''
      : visitor === 'first'
        ? REACH_TEXTS.firstVisit
        : 'for somebody who has been here before',
    witness.isNotYet === true ? 'before what it waits for has come' : '',
    width === undefined ? '' : say(REACH_TEXTS.inA, { width }),
  ]
    .filter(Boolean)
    .join(', ');
}
