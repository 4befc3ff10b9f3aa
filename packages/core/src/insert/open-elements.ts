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
 * The stack of open elements (HTML Standard 13.2.4.2), reduced to those that decide whether a later `</body>` or
 * `</template>` counts and what a place inside them is worth: tables, templates, selects, objects, svg and math.
 * Inside an integration point of svg or math all elements are kept, since any of them can hide its end tag.
 */
export class OpenElements {
  readonly #stack: OpenElement[] = [];

  get hasTemplate(): boolean {
    return this.#stack.some((element) => element.name === 'template' && element.namespace === 'html');
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
      while (this.#isForeignNode()) this.#stack.pop();
    }
    return this.#startHtml(token, attributes);
  }

  /** Processes an end tag that is not one of body and html. */
  end(name: string): void {
    // For end tags an integration point counts as foreign (13.2.6, the dispatcher's list speaks of start tags).
    if (this.allowsCdata) {
      if (name === 'br' || name === 'p') {
        while (this.#isForeignNode()) this.#stack.pop();
      } else {
        for (let i = this.#stack.length - 1; i >= 0 && this.#stack[i]!.namespace !== 'html'; i--) {
          if (this.#stack[i]!.name === name) {
            this.#stack.length = i;
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
    else if (this.#inIntegrationPoint() && !VOID_ELEMENTS.has(name)) this.#push(name);
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
    } else if (SCOPE_ELEMENTS.has(name)) {
      for (let i = this.#stack.length - 1; i >= 0; i--) {
        const element = this.#stack[i]!;
        if (element.namespace === 'html' && element.name === name) {
          this.#stack.length = i;
          return;
        }
        if (element.namespace === 'html' ? SCOPE_ELEMENTS.has(element.name) : element.integration) return;
      }
    } else if (this.#inIntegrationPoint()) {
      for (let i = this.#stack.length - 1; i >= 0 && this.#stack[i]!.namespace === 'html'; i--) {
        if (this.#stack[i]!.name === name) {
          this.#stack.length = i;
          return;
        }
        if (SCOPE_ELEMENTS.has(this.#stack[i]!.name)) return;
      }
    }
  }

  #push(name: string): void {
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

  #isForeignNode(): boolean {
    const top = this.#stack.at(-1);
    return top !== undefined && top.namespace !== 'html' && top.integration === undefined;
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

  /** Removes everything down to and with the topmost HTML element of this name. */
  #truncate(name: string): void {
    for (let i = this.#stack.length - 1; i >= 0; i--) {
      const element = this.#stack[i]!;
      if (element.name === name && element.namespace === 'html') {
        this.#stack.length = i;
        return;
      }
    }
  }

  #clearToTable(): void {
    while (this.#stack.length > 0 && this.#stack.at(-1)!.name !== 'table') this.#stack.pop();
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

  #inIntegrationPoint(): boolean {
    return this.#stack.some((element) => element.integration !== undefined);
  }
}

function isHtmlAnnotation(attributes: Map<string, string>): boolean {
  const encoding = attributes.get('encoding')?.toLowerCase();
  return encoding === 'text/html' || encoding === 'application/xhtml+xml';
}
