import { isLineAddress } from './one-line/find-lines.js';
import { lineName } from './one-line/files.js';
import { GUARD_SCRIPT, RELEASE_SCRIPT } from './one-line/scripts.js';

/** A script as a browser runs it. */
export interface RunScript {
  /** Of its file, or of the page that it stands in. */
  readonly url: string;
  /** The text of one without a file. */
  readonly text: string;
}

/** Long enough to stand in nobody else's code. */
const SIGNATURE_LENGTH = 80;
const SIGNATURES = [RELEASE_SCRIPT, GUARD_SCRIPT].map((script) => script.slice(0, SIGNATURE_LENGTH));
/** How later pieces of a block call what its first one brought. */
const CALL = 'document.pgmIf(';

/**
 * Whether a script is one of ours that puts parts into the page: what they do is theirs, not its.
 *
 * @param site - the site's key
 */
export function isCarrier({ url, text }: RunScript, site: string): boolean {
  if (isCarrierFile(url, site)) return true;
  return text.startsWith(CALL) || SIGNATURES.some((signature) => text.includes(signature));
}

/** The same of a file by its address: that of a line, or of a release behind it. */
export function isCarrierFile(url: string, site: string): boolean {
  return isLineAddress(url, lineName(site, 'live')) || isLineAddress(url, lineName(site, 'staging'));
}
