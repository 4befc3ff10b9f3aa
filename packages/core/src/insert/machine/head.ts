import { startInBody, endInBody } from './body.js';
import {
  beginBody,
  beginFrameset,
  beginHead,
  endHead,
  headElementEnded,
  implyBody,
  implyHead,
} from './places.js';
import { enterScript, enterText } from './raw-text.js';
import { resetMode } from './reset-mode.js';
import { Mode, type Machine } from './state.js';
import { Tag } from './tags.js';
import {
  appendElement,
  endTagByMode,
  insertElement,
  notFrameset,
  startTagByMode,
  tagPosition,
} from './tree.js';
import { Is } from './classes.js';

/** The insertion modes before the body (HTML Standard 13.2.6.4.1–4.6). */

export function startBeforeHtml(m: Machine): void {
  m.open.push(Tag.Html, 0, false);
  m.mode = Mode.BeforeHead;
  if (m.tag !== Tag.Html) startTagByMode(m);
}

/** End tags that imply what is missing; others are ignored. */
function implies(tag: number): boolean {
  return tag === Tag.Body || tag === Tag.Html || tag === Tag.Br;
}

export function endBeforeHtml(m: Machine): void {
  // In the initial mode any end tag ends it; nothing else depends on that.
  if (!implies(m.tag) && m.tag !== Tag.Head) {
    m.mode = Mode.BeforeHtml;
    return;
  }
  m.open.push(Tag.Html, 0, false);
  m.mode = Mode.BeforeHead;
  endTagByMode(m);
}

export function startBeforeHead(m: Machine): void {
  if (m.tag === Tag.Html) return;
  if (m.tag === Tag.Head) {
    beginHead(m, m.base + m.tagEnd);
    return;
  }
  implyHead(m, tagPosition(m));
  startTagByMode(m);
}

export function endBeforeHead(m: Machine): void {
  if (!implies(m.tag) && m.tag !== Tag.Head) return;
  implyHead(m, tagPosition(m));
  endTagByMode(m);
}

export function startInHead(m: Machine): void {
  if (m.tag === Tag.Html || m.tag === Tag.Head) return;
  if (headElement(m)) return;
  endHead(m, tagPosition(m), false);
  startTagByMode(m);
}

/**
 * The start tags that "in head" knows, also where other modes refer to it.
 * @returns whether the current tag is one of them
 */
export function headElement(m: Machine): boolean {
  switch (m.tag) {
    case Tag.Base:
    case Tag.Basefont:
    case Tag.Bgsound:
    case Tag.Link:
    case Tag.Meta:
      appendElement(m);
      headElementEnded(m, m.base + m.tagEnd);
      return true;
    case Tag.Title:
    case Tag.Noscript:
    case Tag.Noframes:
    case Tag.Style:
      leavesCandidate(m);
      enterText(m);
      return true;
    case Tag.Script:
      leavesCandidate(m);
      enterScript(m);
      return true;
    case Tag.Template:
      leavesCandidate(m);
      insertElement(m);
      m.formatting.pushMarker();
      notFrameset(m);
      m.mode = Mode.InTemplate;
      m.templateModes.reserve(m.templateDepth + 1);
      m.templateModes.set(m.templateDepth, Mode.InTemplate);
      m.templateDepth++;
      return true;
    default:
      return false;
  }
}

/** Another element of the head begins, so the head does not end before it. */
function leavesCandidate(m: Machine): void {
  if (m.mode === Mode.InHead) m.headCandidate = -1;
}

export function endInHead(m: Machine): void {
  if (m.tag === Tag.Head) {
    endHead(m, tagPosition(m), true);
    return;
  }
  if (m.tag === Tag.Template) {
    endTemplate(m);
    return;
  }
  if (!implies(m.tag)) return;
  endHead(m, tagPosition(m), false);
  endTagByMode(m);
}

/** `</template>`, in any mode. */
export function endTemplate(m: Machine): void {
  if (m.open.templates === 0) return;
  m.open.impliedEnds(Is.ImpliedThoroughly, -1);
  m.open.popUntil(Tag.Template);
  m.formatting.clearToMarker();
  m.templateDepth--;
  resetMode(m);
  headElementEnded(m, m.base + m.tagEnd);
}

export function startAfterHead(m: Machine): void {
  switch (m.tag) {
    case Tag.Html:
    case Tag.Head:
      return;
    case Tag.Body:
      beginBody(m, m.base + m.tagEnd);
      return;
    case Tag.Frameset:
      beginFrameset(m, tagPosition(m));
      return;
    case Tag.Noscript:
      break;
    default:
      // Late elements of the head are moved into it; they do not begin the body.
      if (headElement(m)) return;
      break;
  }
  implyBody(m, tagPosition(m));
  startInBody(m);
}

export function endAfterHead(m: Machine): void {
  if (m.tag === Tag.Template) {
    endTemplate(m);
    return;
  }
  if (!implies(m.tag)) return;
  implyBody(m, tagPosition(m));
  endInBody(m);
}
