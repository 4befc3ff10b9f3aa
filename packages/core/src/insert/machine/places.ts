import { Event, LOOKAHEAD, LeftOut, Mode, Places, type Machine } from './state.js';
import { Tag } from './tags.js';

/**
 * Where head and body begin and end. These functions are called by the tree's transitions with the position, in the
 * page, of the token that causes them.
 */

/** An implied head begins. */
export function implyHead(m: Machine, position: number): void {
  m.open.push(Tag.Head, 0, false);
  m.hasHead = true;
  m.mode = Mode.InHead;
  m.headUnwritten = true;
  m.event(Event.HeadStart, position, 1, 0);
}

/** The page's own head begins; its tag ends at `position`. */
export function beginHead(m: Machine, position: number): void {
  m.selection.isTag = true;
  m.open.push(Tag.Head, 0, false);
  m.hasHead = true;
  m.mode = Mode.InHead;
  m.event(Event.HeadStart, position, 0, 0);
}

/** An element of the head is complete: the head may end here. */
export function headElementEnded(m: Machine, position: number): void {
  if (m.mode !== Mode.InHead || m.open.templates > 0) return;
  m.headCandidate = position;
  m.headUnwritten = false;
  if (position === m.watch) m.event(Event.Watched, position, 0, 0);
}

/** The head ends at `position`, by its own end tag or by something that it cannot hold. */
export function endHead(m: Machine, position: number, ownTag: boolean): void {
  m.open.pop();
  m.mode = Mode.AfterHead;
  const after = m.headCandidate;
  const place = !ownTag && after >= 0 && position - after <= LOOKAHEAD ? after : position;
  m.event(Event.HeadEnd, place, m.headUnwritten ? 1 : 0, 0);
  m.headUnwritten = false;
  m.headCandidate = -1;
}

/** A body that the page only implies begins. A frameset may still replace it. */
export function implyBody(m: Machine, position: number): void {
  m.open.push(Tag.Body, 0, false);
  m.mode = Mode.InBody;
  m.event(Event.BodyStart, position, 1, 0);
  if (m.framesetOk) m.tentativeBodyAt = position;
}

export function beginBody(m: Machine, position: number): void {
  m.selection.isTag = true;
  m.open.push(Tag.Body, 0, false);
  m.mode = Mode.InBody;
  m.framesetOk = false;
  m.event(Event.BodyStart, position, 0, 0);
}

/** Something stands at `position` that no frameset can replace: the frameset-ok flag becomes "not ok". */
export function rulesOutFrameset(m: Machine, position: number): void {
  m.framesetOk = false;
  if (m.tentativeBodyAt < 0) return;
  if (position - m.tentativeBodyAt > LOOKAHEAD) m.event(Event.BodyUndecided, position, 0, 0);
  m.tentativeBodyAt = -1;
}

/** No token can decide it any more within the bytes that are held back. */
export function checkLookahead(m: Machine, position: number): void {
  if (m.tentativeBodyAt >= 0 && position - m.tentativeBodyAt > LOOKAHEAD) {
    m.event(Event.BodyUndecided, position, 0, 0);
    m.tentativeBodyAt = -1;
  }
  if (m.headCandidate >= 0 && position - m.headCandidate > LOOKAHEAD) m.headCandidate = -1;
  if (m.commentAt >= 0 && position - m.commentAt > LOOKAHEAD) m.commentAt = -1;
}

/** A frameset takes the place of the body, or of one that has begun. */
export function beginFrameset(m: Machine, position: number): void {
  m.open.push(Tag.Frameset, 0, false);
  m.mode = Mode.InFrameset;
  m.tentativeBodyAt = -1;
  m.event(Event.Frameset, position, 0, 0);
}

/**
 * The body's own end tag, or that of html, counts. In a drawing left open nothing can be put before it; what follows
 * may leave the drawing, and stands in the body again.
 */
export function endBody(m: Machine, position: number): void {
  if (m.bodyEnded || m.open.isForeign()) return;
  m.bodyEnded = true;
  m.event(Event.BodyEnd, position, 0, 0);
}

/** The placements that had no event. */
function missing(m: Machine): number {
  switch (m.mode) {
    case Mode.Initial:
    case Mode.BeforeHtml:
    case Mode.BeforeHead:
      return Places.HeadStart | Places.HeadEnd | Places.BodyStart | Places.BodyEnd;
    case Mode.InHead:
      return Places.HeadEnd | Places.BodyStart | Places.BodyEnd;
    case Mode.AfterHead:
      return Places.BodyStart | Places.BodyEnd;
    default:
      return Places.BodyEnd;
  }
}

function isFrameset(m: Machine): boolean {
  return m.mode === Mode.InFrameset || m.mode === Mode.AfterFrameset || m.mode === Mode.AfterAfterFrameset;
}

/** The page ends inside something that swallows all that would follow. */
export function endSwallowed(m: Machine): void {
  m.tentativeBodyAt = -1;
  if (m.bodyEnded) return;
  if (m.mode === Mode.Text) m.mode = m.textReturn;
  if (isFrameset(m)) return;
  // What is left open around it counts for the placements that it would have been inside of.
  m.event(Event.LeftOut, 0, modeOfPage(m), LeftOut.Unfinished);
  m.bodyEnded = true;
}

/** The missing placements, with a template open, are those of the page around it. */
function modeOfPage(m: Machine): number {
  if (m.open.templates === 0) return missing(m);
  if (m.open.topmost(Tag.Body) >= 0) return Places.BodyEnd;
  const body = Places.BodyStart | Places.BodyEnd;
  return m.open.topmost(Tag.Head) >= 0 ? body | Places.HeadEnd : body;
}

/** The page ends at `position` with nothing left open that matters, or in a comment (`inComment`) that begins there. */
export function endPage(m: Machine, position: number, inComment: boolean): void {
  m.tentativeBodyAt = -1;
  if (m.bodyEnded || isFrameset(m)) return;
  m.bodyEnded = true;
  if (m.open.templates > 0) {
    m.event(Event.LeftOut, position, modeOfPage(m), LeftOut.Template);
    return;
  }
  if (inComment && m.mode === Mode.InColumnGroup) {
    // A script would end the column group, and the comment would stand outside of it.
    m.event(Event.LeftOut, position, Places.BodyEnd, LeftOut.Unfinished);
    return;
  }
  if (inComment) {
    // The comment stays where it is only if no element has to begin before it.
    if (m.mode === Mode.InHead) {
      const place = m.headCandidate >= 0 ? m.headCandidate : position;
      m.event(Event.HeadEnd, place, m.headUnwritten ? 1 : 0, 0);
      m.headCandidate = -1;
      m.event(Event.LeftOut, position, Places.BodyStart | Places.BodyEnd, LeftOut.Unfinished);
      return;
    }
    if (m.mode === Mode.AfterHead || m.mode <= Mode.BeforeHead) {
      m.event(Event.LeftOut, position, missing(m), LeftOut.Unfinished);
      return;
    }
  } else {
    if (m.mode <= Mode.BeforeHtml) m.open.push(Tag.Html, 0, false);
    if (m.mode <= Mode.BeforeHead) implyHead(m, position);
    if (m.mode === Mode.InHead) endHead(m, position, false);
    if (m.mode === Mode.AfterHead) implyBody(m, position);
    m.tentativeBodyAt = -1;
  }
  if (m.open.isForeign()) m.event(Event.LeftOut, position, Places.BodyEnd, LeftOut.Foreign);
  else m.event(Event.BodyEnd, position, 0, 0);
}
