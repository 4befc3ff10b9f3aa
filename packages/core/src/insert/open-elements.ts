import {
  CLOSE_SELECT,
  FOREIGN_BREAKOUT,
  MATHML_TEXT_INTEGRATION,
  RAW_TEXT_ELEMENTS,
  SCOPE_ELEMENTS,
  SVG_HTML_INTEGRATION,
  TABLE_STRUCTURE,
  VOID_ELEMENTS,
} from './names.js';
import { CLOSES_BLOCK, CLOSES_P, FORMATTING, HEADINGS, SPECIAL } from './implied-end-tags.js';
import type { Token } from './tokenizer.js';

interface OpenElement {
  readonly name: string;
  readonly namespace: 'html' | 'svg' | 'math';
  /** `html`: all start tags inside are HTML again; `text`: all but mglyph and malignmark (13.2.6, integration points). */
  readonly integration?: 'html' | 'text';
}

/** Start tags that open nothing where a body or a template is open already. */
const PAGE_FRAME: ReadonlySet<string> = new Set(['html', 'head', 'body', 'frameset', 'frame']);

/** What became of a start tag: where the parser went on, as far as insertion cares. */
export type StartTagOutcome = 'html' | 'raw-text' | 'foreign' | 'ignored';

type TableMode = 'none' | 'table' | 'cell' | 'caption';

/**
 * The stack of open elements (HTML Standard 13.2.4.2) without nodes: it decides whether a later `</body>` or
 * `</template>` counts and what a place is worth, with tables, templates, selects, objects, svg and math open or not.
 * Ordinary elements are kept because their end tags can close an svg that was left open inside them. The list of
 * active formatting elements is not: where one would be opened again, this stack has one element less.
 */
export class OpenElements {
  readonly #stack: OpenElement[] = [];

  /** How many templates are open. */
  #templates = 0;

  get hasTemplate(): boolean {
    return this.#templates > 0;
  }

  /** Whether the current node is in svg or math, so that what is written there becomes part of the drawing. */
  get isForeign(): boolean {
    const top = this.#stack.at(-1);
    return top !== undefined && top.namespace !== 'html' && top.integration === undefined;
  }

  /** Whether the adjusted current node is foreign: CDATA sections are sections there. */
  get allowsCdata(): boolean {
    const top = this.#stack.at(-1);
    return top !== undefined && top.namespace !== 'html';
  }

  /** "Has a body element in scope" for a body at the bottom of the stack; a select hides it, too. */
  get bodyInScope(): boolean {
    return !this.#stack.some((element) =>
      element.namespace === 'html'
        ? SCOPE_ELEMENTS.has(element.name) || element.name === 'select'
        : element.integration !== undefined || element.name === 'annotation-xml',
    );
  }

  /** Processes a start tag in the head, the body, a template or foreign content. */
  start(token: Token, attributes: () => Map<string, string>): StartTagOutcome {
    if (this.#isForeignFor(token)) {
      if (!this.#breaksOut(token, attributes)) {
        if (!token.selfClosing)
          this.#pushForeign(token.name, this.#stack.at(-1)!.namespace as 'svg' | 'math', attributes);
        return 'foreign';
      }
      this.#leaveForeign();
    }
    return this.#startHtml(token, attributes);
  }

  /** Processes an end tag that is not one of body and html. */
  end(name: string): void {
    // For end tags an integration point counts as foreign (13.2.6, the dispatcher's list speaks of start tags).
    if (this.allowsCdata) {
      if (name === 'br' || name === 'p') {
        this.#leaveForeign();
      } else {
        for (let i = this.#stack.length - 1; i >= 0 && this.#stack[i]!.namespace !== 'html'; i--) {
          if (this.#stack[i]!.name === name) {
            this.#cut(i);
            return;
          }
        }
      }
    }
    this.#endHtml(name);
  }

  #startHtml(token: Token, attributes: () => Map<string, string>): StartTagOutcome {
    const { name } = token;
    if (PAGE_FRAME.has(name)) return 'ignored';
    if (this.#inSelect()) {
      const inTable = this.#tableMode() !== 'none';
      const leaves =
        CLOSE_SELECT.has(name) ||
        name === 'select' ||
        (inTable && (TABLE_STRUCTURE.has(name) || name === 'table'));
      if (leaves) this.#truncate('select');
      else if (name !== 'script' && name !== 'template') return 'ignored';
      if (name === 'select') return 'ignored';
    }
    if (name === 'svg' || name === 'math') {
      if (!token.selfClosing) this.#pushForeign(name, name === 'svg' ? 'svg' : 'math', attributes);
      return 'foreign';
    }
    if (RAW_TEXT_ELEMENTS.has(name)) return 'raw-text';
    if (name === 'table') {
      if (this.#tableMode() === 'table') this.#truncate('table');
      this.#push(name);
    } else if (TABLE_STRUCTURE.has(name)) {
      if (this.#tableMode() === 'none') return this.hasTemplate ? 'html' : 'ignored';
      this.#clearToTable();
      if (name === 'td' || name === 'th' || name === 'caption') this.#push(name);
    } else if (name === 'template' || name === 'select' || SCOPE_ELEMENTS.has(name)) this.#push(name);
    else if (!VOID_ELEMENTS.has(name)) {
      this.#closeImplied(name);
      this.#push(name);
    } else if (CLOSES_P.has(name)) this.#closeImplied(name);
    return 'html';
  }

  #endHtml(name: string): void {
    if (name === 'template') {
      if (this.hasTemplate) this.#truncate('template');
      return;
    }
    const inTable = this.#tableMode() !== 'none';
    if (this.#inSelect()) {
      if (name === 'select') this.#truncate('select');
      if (!inTable || !(TABLE_STRUCTURE.has(name) || name === 'table')) return;
      if (!this.#inTableScope(name)) return;
      this.#truncate('select');
    }
    if (name === 'table' || name === 'td' || name === 'th' || name === 'caption') {
      if (this.#inTableScope(name)) this.#truncate(name);
    } else if (TABLE_STRUCTURE.has(name)) {
      // `</tr>`, `</tbody>` … close the cell; the row itself is not on this stack.
      if (this.#tableMode() === 'cell') this.#clearToTable();
    } else if (HEADINGS.has(name)) this.#closeInScope((open) => HEADINGS.has(open), SCOPE_ELEMENTS);
    else if (name === 'p') this.#closeInScope((open) => open === name, BUTTON_SCOPE);
    else if (name === 'li') this.#closeInScope((open) => open === name, LIST_SCOPE);
    else if (CLOSES_BLOCK.has(name) || SCOPE_ELEMENTS.has(name))
      this.#closeInScope((open) => open === name, SCOPE_ELEMENTS);
    else if (FORMATTING.has(name)) this.#closeFormatting(name);
    else this.#closeOther(name);
  }

  /** Start tags that end a paragraph or an item before them. */
  #closeImplied(name: string): void {
    if (name === 'li') this.#closeItem((open) => open === 'li');
    else if (name === 'dd' || name === 'dt') this.#closeItem((open) => open === 'dd' || open === 'dt');
    else if (name === 'button') this.#closeInScope((open) => open === name, SCOPE_ELEMENTS);
    if (CLOSES_P.has(name)) this.#closeInScope((open) => open === 'p', BUTTON_SCOPE);
    const top = this.#stack.at(-1);
    if (HEADINGS.has(name) && top !== undefined && HEADINGS.has(top.name)) this.#cut(this.#stack.length - 1);
    if ((name === 'option' || name === 'optgroup') && top?.name === 'option')
      this.#cut(this.#stack.length - 1);
  }

  /** An open item of the same kind, unless something special other than address, div and p stands between. */
  #closeItem(isItem: (name: string) => boolean): void {
    for (let i = this.#stack.length - 1; i >= 0; i--) {
      const { name, namespace, integration } = this.#stack[i]!;
      if (namespace === 'html' && isItem(name)) {
        this.#cut(i);
        return;
      }
      const isSpecial = namespace === 'html' ? SPECIAL.has(name) : integration !== undefined;
      if (isSpecial && name !== 'address' && name !== 'div' && name !== 'p') return;
    }
  }

  /** Closes the topmost matching element unless one of the barriers (13.2.4.2, "in scope") stands above it. */
  #closeInScope(matches: (name: string) => boolean, barriers: ReadonlySet<string>): void {
    for (let i = this.#stack.length - 1; i >= 0; i--) {
      const element = this.#stack[i]!;
      if (element.namespace === 'html' && matches(element.name)) {
        this.#cut(i);
        return;
      }
      if (isBarrier(element, barriers)) return;
    }
  }

  /** The adoption agency (13.2.6.4.7): past a block the element alone goes, otherwise all that is in it. */
  #closeFormatting(name: string): void {
    let hasBlock = false;
    for (let i = this.#stack.length - 1; i >= 0; i--) {
      const element = this.#stack[i]!;
      if (element.namespace === 'html' && element.name === name) {
        if (hasBlock) this.#stack.splice(i, 1);
        else this.#cut(i);
        return;
      }
      if (isBarrier(element, SCOPE_ELEMENTS)) return;
      hasBlock ||= element.namespace === 'html' && SPECIAL.has(element.name);
    }
  }

  /** "Any other end tag" (13.2.6.4.7). */
  #closeOther(name: string): void {
    for (let i = this.#stack.length - 1; i >= 0; i--) {
      const element = this.#stack[i]!;
      if (element.namespace === 'html' && element.name === name) {
        this.#cut(i);
        return;
      }
      if (element.namespace === 'html' ? SPECIAL.has(element.name) : isBarrier(element, SCOPE_ELEMENTS))
        return;
    }
  }

  #push(name: string): void {
    if (name === 'template') this.#templates++;
    this.#stack.push({ name, namespace: 'html' });
  }

  #pushForeign(name: string, namespace: 'svg' | 'math', attributes: () => Map<string, string>): void {
    const element: OpenElement = { name, namespace };
    if (namespace === 'svg' && SVG_HTML_INTEGRATION.has(name))
      this.#stack.push({ ...element, integration: 'html' });
    else if (namespace === 'math' && MATHML_TEXT_INTEGRATION.has(name))
      this.#stack.push({ ...element, integration: 'text' });
    else if (namespace === 'math' && name === 'annotation-xml' && isHtmlAnnotation(attributes())) {
      this.#stack.push({ ...element, integration: 'html' });
    } else this.#stack.push(element);
  }

  /** The tree construction dispatcher (13.2.6) for a start tag. */
  #isForeignFor(token: Token): boolean {
    const top = this.#stack.at(-1);
    if (top === undefined || top.namespace === 'html' || top.integration === 'html') return false;
    if (top.integration === 'text') return token.name === 'mglyph' || token.name === 'malignmark';
    return !(top.name === 'annotation-xml' && token.name === 'svg');
  }

  #breaksOut(token: Token, attributes: () => Map<string, string>): boolean {
    if (token.name !== 'font') return FOREIGN_BREAKOUT.has(token.name);
    const given = attributes();
    return given.has('color') || given.has('face') || given.has('size');
  }

  /** Leaves this many elements open. */
  #cut(length: number): void {
    while (this.#stack.length > length) {
      const { name, namespace } = this.#stack.pop()!;
      if (name === 'template' && namespace === 'html') this.#templates--;
    }
  }

  #leaveForeign(): void {
    let length = this.#stack.length;
    while (
      length > 0 &&
      this.#stack[length - 1]!.namespace !== 'html' &&
      this.#stack[length - 1]!.integration === undefined
    )
      length--;
    this.#cut(length);
  }

  /** Removes everything down to and with the topmost HTML element of this name. */
  #truncate(name: string): void {
    for (let i = this.#stack.length - 1; i >= 0; i--) {
      const element = this.#stack[i]!;
      if (element.name === name && element.namespace === 'html') {
        this.#cut(i);
        return;
      }
    }
  }

  #clearToTable(): void {
    let length = this.#stack.length;
    while (length > 0 && this.#stack[length - 1]!.name !== 'table') length--;
    this.#cut(length);
  }

  #inTableScope(name: string): boolean {
    for (let i = this.#stack.length - 1; i >= 0; i--) {
      const element = this.#stack[i]!;
      if (element.namespace !== 'html') continue;
      if (element.name === name) return true;
      if (element.name === 'table' || element.name === 'template') return false;
    }
    return false;
  }

  #tableMode(): TableMode {
    for (let i = this.#stack.length - 1; i >= 0; i--) {
      const element = this.#stack[i]!;
      if (element.namespace !== 'html') continue;
      if (element.name === 'table') return 'table';
      if (element.name === 'td' || element.name === 'th') return 'cell';
      if (element.name === 'caption') return 'caption';
      if (element.name === 'template') return 'none';
    }
    return 'none';
  }

  #inSelect(): boolean {
    for (let i = this.#stack.length - 1; i >= 0; i--) {
      const element = this.#stack[i]!;
      if (element.name === 'select' && element.namespace === 'html') return true;
      if (SCOPE_ELEMENTS.has(element.name) || element.namespace !== 'html') return false;
    }
    return false;
  }
}

const BUTTON_SCOPE: ReadonlySet<string> = new Set([...SCOPE_ELEMENTS, 'button']);
const LIST_SCOPE: ReadonlySet<string> = new Set([...SCOPE_ELEMENTS, 'ol', 'ul']);

function isBarrier({ name, namespace, integration }: OpenElement, barriers: ReadonlySet<string>): boolean {
  return namespace === 'html' ? barriers.has(name) : integration !== undefined || name === 'annotation-xml';
}

function isHtmlAnnotation(attributes: Map<string, string>): boolean {
  const encoding = attributes.get('encoding')?.toLowerCase();
  return encoding === 'text/html' || encoding === 'application/xhtml+xml';
}
