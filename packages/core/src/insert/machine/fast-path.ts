import { Is } from './classes.js';
import { Ns } from './open-elements.js';
import { Mode, type Machine } from './state.js';

/**
 * Passing over ordinary elements. Once the body has begun and nobody asks for ids, all that is left to find is the end
 * tag of the body that counts. Whether it does depends on the open tables, cells, captions, templates, selects,
 * objects and the like, and on foreign content: the skeleton of the page. Ordinary elements cannot close any of these
 * (they are barriers of every scope, HTML Standard 13.2.4.2), with two exceptions: an end tag in foreign content that
 * fits nothing foreign closes what is around it, and HTML inside svg and math depends on the formatting elements left
 * open before. A page that comes to one of these bails out and is read again, with all of its elements.
 */

/** The modes in which ordinary tags are of no account, as bits. */
const PASSING: number =
  (1 << Mode.InBody) |
  (1 << Mode.InTable) |
  (1 << Mode.InCaption) |
  (1 << Mode.InTableBody) |
  (1 << Mode.InRow) |
  (1 << Mode.InCell);

/** Whether ordinary tags can be passed over here. */
export function isPassing(m: Machine): boolean {
  if (!m.isFastPath) {
    if (!m.mayUseFastPath || m.framesetOk || m.mode !== Mode.InBody) return false;
    m.isFastPath = true;
  }
  return ((PASSING >> m.mode) & 1) !== 0 && m.open.templates === 0 && m.open.currentNs() === Ns.Html;
}

/** Whether elements without children, which fit nothing but drawings and formulas, can be passed over here. */
export function isPassingForeign(m: Machine): boolean {
  return m.mayUseFastPath && m.open.isForeign();
}

/** Whether the current tag is of no account here. */
export function isPassed(m: Machine): boolean {
  return m.isFastPath && isPassing(m) && !m.classes.is(m.tag, Is.Skeleton);
}

/** An end tag in foreign content fits nothing there. */
export function foreignEndFitsNothing(m: Machine): void {
  if (m.isFastPath && m.open.templates === 0 && !m.classes.is(m.tag, Is.Skeleton)) m.hasBailedOut = true;
}

/** An element of svg or math begins that may hold HTML. */
export function foreignHoldsHtml(m: Machine): void {
  if (m.isFastPath && m.open.templates === 0 && !m.open.isForeign()) m.hasBailedOut = true;
}
