import { Is } from './classes.js';
import { appendElement, insertElement, notFrameset } from './insert-element.js';
import { headElementEnded } from './places.js';
import { enterScript, enterText } from './raw-text.js';
import { resetMode } from './reset-mode.js';
import { Mode, type Machine } from './state.js';
import { Tag } from './tags.js';

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
