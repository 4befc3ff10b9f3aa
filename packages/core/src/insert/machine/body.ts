import { closeFormatting } from './adoption.js';
import { endOther } from './any-other-end-tag.js';
import { isHiddenInput } from './attributes.js';
import { End, Is, Start } from './classes.js';
import { insertForeign } from './foreign.js';
import { endTemplate, headElement } from './head-elements.js';
import { Ns } from './open-elements.js';
import { beginFrameset, endBody } from './places.js';
import { enterPlaintext, enterText } from './raw-text.js';
import { reconstruct } from './reconstruct.js';
import { Mode, type Machine } from './state.js';
import { Tag } from './tags.js';
import { appendElement, appendImplied, insertElement, notFrameset, tagPosition } from './insert-element.js';

/** "In body" (HTML Standard 13.2.6.4.7), start tags. */
export function startInBody(m: Machine): void {
  const tag = m.tag;
  switch (tag < Tag.Known ? m.classes.starts.get(tag) : Start.Ordinary) {
    case Start.Ordinary:
      reconstruct(m);
      insertElement(m);
      break;
    case Start.Block:
      closeP(m);
      insertElement(m);
      break;
    case Start.Formatting:
      reconstruct(m);
      insertFormatting(m);
      break;
    case Start.A:
      startA(m);
      break;
    case Start.ListItem:
      closeItem(m, m.open.topmost(Tag.Li));
      break;
    case Start.DefinitionItem:
      closeItem(m, larger(m.open.topmost(Tag.Dd), m.open.topmost(Tag.Dt)));
      break;
    case Start.Void:
      reconstruct(m);
      appendElement(m);
      notFrameset(m);
      break;
    case Start.Heading:
      closeP(m);
      if (m.open.currentIs(Is.Heading)) m.open.pop();
      insertElement(m);
      break;
    case Start.HeadElement:
      headElement(m);
      break;
    case Start.Param:
      appendElement(m);
      break;
    case Start.Html:
    case Start.Ignored:
      break;
    case Start.Pre:
      closeP(m);
      insertElement(m);
      notFrameset(m);
      break;
    case Start.Form:
      startForm(m);
      break;
    case Start.Table:
      if (!m.quirks) closeP(m);
      insertElement(m);
      notFrameset(m);
      m.mode = Mode.InTable;
      break;
    case Start.Input:
      reconstruct(m);
      appendElement(m);
      if (m.framesetOk && !isHiddenInput(m)) notFrameset(m);
      break;
    case Start.Hr:
      closeP(m);
      appendElement(m);
      notFrameset(m);
      break;
    case Start.Button:
      if (m.open.inScope(Tag.Button, 0)) {
        m.open.impliedEnds(Is.Implied, -1);
        m.open.popUntil(Tag.Button);
      }
      reconstruct(m);
      insertElement(m);
      notFrameset(m);
      break;
    case Start.Nobr:
      reconstruct(m);
      if (m.open.inScope(Tag.Nobr, 0)) {
        closeFormatting(m, Tag.Nobr);
        reconstruct(m);
      }
      insertFormatting(m);
      break;
    case Start.Marked:
      reconstruct(m);
      insertElement(m);
      m.formatting.pushMarker();
      notFrameset(m);
      break;
    case Start.Textarea:
    case Start.Iframe:
      notFrameset(m);
      enterText(m);
      break;
    case Start.RawText:
      enterText(m);
      break;
    case Start.Xmp:
      closeP(m);
      reconstruct(m);
      notFrameset(m);
      enterText(m);
      break;
    case Start.Plaintext:
      closeP(m);
      insertElement(m);
      enterPlaintext(m);
      break;
    case Start.Select:
      reconstruct(m);
      insertElement(m);
      notFrameset(m);
      m.mode = isTableMode(m.mode) ? Mode.InSelectInTable : Mode.InSelect;
      break;
    case Start.Option:
      if (m.open.currentHtmlTag() === Tag.Option) m.open.pop();
      reconstruct(m);
      insertElement(m);
      break;
    case Start.RubyBase:
      if (m.open.inScope(Tag.Ruby, 0)) m.open.impliedEnds(Is.Implied, -1);
      insertElement(m);
      break;
    case Start.RubyText:
      // "Generate implied end tags, except for rtc elements".
      if (m.open.inScope(Tag.Ruby, 0)) m.open.impliedEnds(Is.Implied, Tag.Rtc);
      insertElement(m);
      break;
    case Start.Math:
      reconstruct(m);
      insertForeign(m, Ns.Math);
      break;
    case Start.Svg:
      reconstruct(m);
      insertForeign(m, Ns.Svg);
      break;
    case Start.Body:
      if (m.open.top >= 1 && m.open.tag(1) === Tag.Body && m.open.templates === 0) notFrameset(m);
      break;
    case Start.Frameset:
      startFrameset(m);
      break;
    default:
      break;
  }
}

/** "In body", end tags. */
export function endInBody(m: Machine): void {
  const tag = m.tag;
  switch (tag < Tag.Known ? m.classes.ends.get(tag) : End.Other) {
    case End.Other:
      endOther(m, tag);
      break;
    case End.Block:
      if (m.open.inScope(tag, 0)) {
        m.open.impliedEnds(Is.Implied, -1);
        m.open.popUntil(tag);
      }
      break;
    case End.Formatting:
      closeFormatting(m, tag);
      break;
    case End.P:
      // Without an open one, an empty p comes and goes.
      if (m.selection.isOn && !m.open.inScope(Tag.P, Is.ButtonScope)) appendImplied(m, Tag.P);
      closeP(m);
      break;
    case End.ListItem:
      if (m.open.inScope(Tag.Li, Is.ListScope)) closeItemAt(m, Tag.Li);
      break;
    case End.DefinitionItem:
      if (m.open.inScope(tag, 0)) closeItemAt(m, tag);
      break;
    case End.Heading: {
      if (m.open.headingInScope() >= 0) {
        m.open.impliedEnds(Is.Implied, -1);
        m.open.cut(m.open.topmostWith(Is.Heading));
      }
      break;
    }
    case End.Br:
      reconstruct(m);
      if (m.selection.isOn) appendImplied(m, Tag.Br);
      notFrameset(m);
      break;
    case End.Body:
      if (m.open.inScope(Tag.Body, 0)) {
        m.mode = Mode.AfterBody;
        endBody(m, tagPosition(m));
      }
      break;
    case End.Html:
      if (m.open.inScope(Tag.Body, 0)) {
        m.mode = Mode.AfterAfterBody;
        endBody(m, tagPosition(m));
      }
      break;
    case End.Form:
      endForm(m);
      break;
    case End.Marked:
      if (m.open.inScope(tag, 0)) {
        m.open.impliedEnds(Is.Implied, -1);
        m.open.popUntil(tag);
        m.formatting.clearToMarker();
      }
      break;
    case End.Template:
      endTemplate(m);
      break;
    default:
      break;
  }
}

function closeP(m: Machine): void {
  if (!m.open.inScope(Tag.P, Is.ButtonScope)) return;
  closeItemAt(m, Tag.P);
}

function closeItemAt(m: Machine, tag: number): void {
  m.open.impliedEnds(Is.Implied, tag);
  m.open.popUntil(tag);
}

/** A list item begins: the one before it, at `index`, ends unless something special stands between. */
function closeItem(m: Machine, index: number): void {
  notFrameset(m);
  if (index >= 0 && !m.open.hasItemBoundaryAbove(index)) closeItemAt(m, m.open.tag(index));
  closeP(m);
  insertElement(m);
}

function insertFormatting(m: Machine): void {
  const uid = insertElement(m);
  const kept = m.selection.isOn ? m.selection.keepTag() : 0;
  m.formatting.push(m.tag, uid, m.window, m.tagNameEnd, m.tagEnd - 1, kept);
}

function startA(m: Machine): void {
  const entry = m.formatting.newest(Tag.A);
  if (entry >= 0) {
    const uid = m.formatting.uid(entry);
    closeFormatting(m, Tag.A);
    const index = m.open.indexOf(uid);
    if (index >= 0) removeOpen(m, index);
    const left = m.formatting.indexOf(uid);
    if (left >= 0) m.formatting.remove(left);
  }
  reconstruct(m);
  insertFormatting(m);
}

function startForm(m: Machine): void {
  const inTemplate = m.open.templates > 0;
  if (m.form !== 0 && !inTemplate) return;
  closeP(m);
  const uid = insertElement(m);
  if (!inTemplate) m.form = uid;
}

function endForm(m: Machine): void {
  const inTemplate = m.open.templates > 0;
  const form = m.form;
  if (!inTemplate) m.form = 0;
  if (!inTemplate && form === 0) return;
  if (inTemplate) {
    if (!m.open.inScope(Tag.Form, 0)) return;
    m.open.impliedEnds(Is.Implied, -1);
    m.open.popUntil(Tag.Form);
    return;
  }
  const index = m.open.indexOf(form);
  if (index < 0 || !m.open.elementInScope(index)) return;
  m.open.impliedEnds(Is.Implied, -1);
  const still = m.open.indexOf(form);
  if (still >= 0) removeOpen(m, still);
}

/** Takes an element off the stack; those above it stay where they are in the page. */
function removeOpen(m: Machine, index: number): void {
  m.open.removeAt(index);
  if (m.selection.isOn && index <= m.open.top) m.selection.detach(index);
}

function startFrameset(m: Machine): void {
  if (!m.framesetOk || m.open.top < 1 || m.open.tag(1) !== Tag.Body) return;
  m.open.cut(1);
  beginFrameset(m, tagPosition(m));
}

function isTableMode(mode: number): boolean {
  return (
    mode === Mode.InTable ||
    mode === Mode.InCaption ||
    mode === Mode.InTableBody ||
    mode === Mode.InRow ||
    mode === Mode.InCell
  );
}

function larger(a: number, b: number): number {
  return a > b ? a : b;
}
