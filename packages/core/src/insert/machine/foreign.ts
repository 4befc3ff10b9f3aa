import { hasFontAttribute, isHtmlAnnotation } from './attributes.js';
import { Is } from './classes.js';
import { appendElement, isOfTag } from './insert-element.js';
import { Ns } from './open-elements.js';
import { foreignEndFitsNothing, foreignHoldsHtml } from './fast-path.js';
import { Reprocess, type Machine } from './state.js';
import { Tag } from './tags.js';

/** The tree construction dispatcher (HTML Standard 13.2.6) for a start tag. */
export function isForeignStart(m: Machine): boolean {
  const ns = m.open.currentNs();
  if (ns === Ns.Html) return false;
  if (m.open.isHtmlIntegrationPoint()) return false;
  if (m.open.isMathTextIntegrationPoint()) return m.tag === Tag.Mglyph || m.tag === Tag.Malignmark;
  return !(m.tag === Tag.Svg && ns === Ns.Math && m.open.tag(m.open.top) === Tag.AnnotationXml);
}

/** 13.2.6.5, any start tag. */
export function foreignStart(m: Machine): void {
  if (m.classes.is(m.tag, Is.Breakout) && (m.tag !== Tag.Font || hasFontAttribute(m))) {
    leaveForeign(m);
    m.reprocess = Reprocess.ByMode;
    return;
  }
  insertForeign(m, m.open.currentNs());
}

export function insertForeign(m: Machine, ns: number): void {
  if (m.selfClosing) {
    appendElement(m);
    return;
  }
  if (m.selection.isOn) isOfTag(m);
  m.open.push(m.tag, ns, ns === Ns.Math && m.tag === Tag.AnnotationXml && isHtmlAnnotation(m));
  foreignHoldsHtml(m);
}

/** 13.2.6.5, any end tag. */
export function foreignEnd(m: Machine): void {
  if (m.tag === Tag.Br || m.tag === Tag.P) {
    leaveForeign(m);
    m.reprocess = Reprocess.ByMode;
    return;
  }
  for (let i = m.open.top; i > 0 && m.open.ns(i) !== Ns.Html; i--) {
    if (m.open.tag(i) === m.tag) {
      m.open.cut(i);
      return;
    }
  }
  foreignEndFitsNothing(m);
  m.reprocess = Reprocess.ByMode;
}

function leaveForeign(m: Machine): void {
  while (m.open.isForeign()) m.open.pop();
}
