import { Is } from './classes.js';
import { Ns } from './open-elements.js';
import { Mode, type Machine } from './state.js';
import { Tag } from './tags.js';

/**
 * The second argument of the events at elements, as bits. From `Closes` on it holds the number, plus one, of an element
 * that the page's next tag ends: its end tag has to be written before the part.
 */
export const enum Anchor {
  Refused = 1,
  /** Only scripts and styles stay at this place: a table or a select is open. */
  ScriptOnly = 2,
  /** A paragraph is open, which some elements would end. */
  InParagraph = 4,
  /** Formatting elements would be opened again before text. */
  Reopens = 8,
  /** In the head: only what belongs there stays. */
  InHead = 16,
  Closes = 256,
}

/** What may stand at the current place, as `Anchor` bits. */
export function contextBits(m: Machine): number {
  if (m.open.top < 0) return 0;
  if (m.open.isForeign() || m.mode === Mode.InColumnGroup) return Anchor.Refused;
  let bits = 0;
  const inTable = m.mode === Mode.InTable || m.mode === Mode.InTableBody || m.mode === Mode.InRow;
  if (
    m.mode === Mode.InSelect ||
    m.mode === Mode.InSelectInTable ||
    (inTable && m.open.currentIs(Is.TableContext))
  )
    bits |= Anchor.ScriptOnly;
  if (m.mode <= Mode.AfterHead) bits |= Anchor.InHead;
  if (m.open.inScope(Tag.P, Is.ButtonScope)) bits |= Anchor.InParagraph;
  if (m.formatting.needsReconstruction()) bits |= Anchor.Reopens;
  return bits;
}

/** What may stand where only elements with implied end tags above the one at `index` are closed before. */
export function contextBitsAt(m: Machine, index: number): number {
  const isPlain =
    m.mode === Mode.InBody ||
    m.mode === Mode.InCell ||
    m.mode === Mode.InCaption ||
    m.mode === Mode.AfterBody ||
    m.mode === Mode.AfterAfterBody;
  if (!isPlain || index < 1 || m.open.ns(index) !== Ns.Html || m.open.is(index, Is.TableContext))
    return Anchor.Refused;
  let bits = 0;
  if (m.open.inScopeAt(index, Tag.P, Is.ButtonScope)) bits |= Anchor.InParagraph;
  if (m.formatting.needsReconstruction()) bits |= Anchor.Reopens;
  return bits;
}
