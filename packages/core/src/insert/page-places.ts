import { isSpace } from './bytes.js';
import { HEAD_ELEMENTS, LATE_HEAD_ELEMENTS, RAW_TEXT_ELEMENTS, VOID_ELEMENTS } from './names.js';
import { OpenElements } from './open-elements.js';
import type { LeftOutReason } from './reasons.js';
import type { Token, Tokenizer } from './tokenizer.js';
import { NAMED_PLACEMENTS, type AnchorPlacement, type NamedPlacement } from './types.js';

/** Told of each place as it is found, in page order. */
export interface PlaceSink {
  /** @param implied - the element that the page only implies here and whose tag may have to be written in front */
  place(placement: NamedPlacement, offset: number, implied?: 'head' | 'body'): void;
  /** An element with an id that was asked for. */
  anchor(id: string, side: AnchorPlacement['side'], offset: number): void;
  leaveOut(placement: NamedPlacement, reason: LeftOutReason): void;
  refuseAnchor(id: string, side: AnchorPlacement['side']): void;
}

/** Insertion modes of the HTML Standard (13.2.6.4), those before the head joined, and so those of the body. */
type Mode = 'before-head' | 'in-head' | 'after-head' | 'in-body' | 'frameset';

/**
 * Tree construction reduced to the question where the head and the body begin and end. It sees every token in order
 * and tells the sink of each place at the moment at which it is decided.
 */
export class PagePlaces {
  readonly #tokenizer: Tokenizer;
  readonly #sink: PlaceSink;
  readonly #anchors: ReadonlySet<string>;
  readonly #open = new OpenElements();
  #mode: Mode = 'before-head';
  /** The head is implied and nothing of it has been seen yet. */
  #headUnwritten = false;
  #bodyEnded = false;

  /** @param anchors - the ids that parts ask for; other ids are not looked at */
  constructor(tokenizer: Tokenizer, sink: PlaceSink, anchors: ReadonlySet<string>) {
    this.#tokenizer = tokenizer;
    this.#sink = sink;
    this.#anchors = anchors;
  }

  /** Processes one token. */
  token(token: Token): void {
    if (token.type === 'text') this.#text(token);
    else if (token.type === 'start') this.#start(token);
    else if (token.type === 'end') this.#end(token);
    this.#tokenizer.cdataAllowed = this.#open.allowsCdata;
  }

  /** The page has ended at `offset`. */
  end(offset: number): void {
    const swallowed = this.#swallowed();
    if (this.#mode === 'frameset') return;
    if (swallowed !== undefined) {
      for (const placement of NAMED_PLACEMENTS) this.#sink.leaveOut(placement, swallowed);
      return;
    }
    this.#toBody(offset);
    this.#endBody(offset);
  }

  #swallowed(): LeftOutReason | undefined {
    if (this.#tokenizer.unfinished) return 'unfinished';
    if (this.#open.hasTemplate) return 'inside-template';
    return this.#open.isForeign ? 'inside-foreign' : undefined;
  }

  #text(token: Token): void {
    if (this.#mode === 'in-body' || this.#mode === 'frameset' || this.#open.hasTemplate) return;
    const { buffer, base } = this.#tokenizer;
    for (let i = token.start - base; i < token.end - base; i++) {
      if (!isSpace(buffer[i])) {
        this.#toBody(base + i);
        return;
      }
    }
  }

  #start(token: Token): void {
    if (this.#open.hasTemplate || this.#open.isForeign) {
      this.#content(token);
      return;
    }
    const { name, start, end } = token;
    if (this.#mode === 'frameset') {
      if (name === 'noframes') this.#tokenizer.enterRawText(name);
      return;
    }
    if (name === 'html') return;
    if (name === 'head') {
      if (this.#mode === 'before-head') {
        this.#mode = 'in-head';
        this.#sink.place('head-start', end);
      }
      return;
    }
    if (this.#mode === 'before-head') this.#implyHead(start);
    if (this.#mode === 'in-head') {
      if (HEAD_ELEMENTS.has(name)) {
        this.#content(token);
        this.#headUnwritten = false;
        return;
      }
      this.#endHead(start);
    }
    if (this.#mode === 'after-head') {
      // Late head elements are moved into the head by the parser; they do not begin the body.
      if (LATE_HEAD_ELEMENTS.has(name)) {
        this.#content(token);
        return;
      }
      if (name === 'frameset') {
        this.#mode = 'frameset';
        for (const placement of ['body-start', 'body-end'] as const)
          this.#sink.leaveOut(placement, 'frameset');
        return;
      }
      this.#mode = 'in-body';
      if (name === 'body') {
        this.#sink.place('body-start', end);
        return;
      }
      this.#sink.place('body-start', start, 'body');
      this.#content(token);
      return;
    }
    if (name !== 'body' && name !== 'frameset') this.#content(token);
  }

  #end(token: Token): void {
    const { name, start } = token;
    if (this.#open.hasTemplate) {
      if (name !== 'body' && name !== 'html') this.#open.end(name);
      return;
    }
    if (this.#mode === 'frameset') return;
    if (this.#mode === 'in-body') {
      if (name !== 'body' && name !== 'html') this.#open.end(name);
      else if (this.#open.bodyInScope) this.#endBody(start);
      return;
    }
    if (name === 'body' || name === 'html' || name === 'br') {
      this.#toBody(start);
      if (name !== 'br') this.#endBody(start);
    } else if (name === 'head') {
      if (this.#mode === 'before-head') this.#implyHead(start);
      if (this.#mode === 'in-head') this.#endHead(start);
    }
  }

  /** A start tag that opens an element in the head, the body or a template. */
  #content(token: Token): void {
    const wasForeign = this.#open.isForeign;
    const inTemplate = this.#open.hasTemplate;
    const attributes = (): Map<string, string> => this.#tokenizer.attributes();
    const outcome = this.#open.start(token, attributes);
    if (this.#anchors.size > 0 && !inTemplate && outcome !== 'ignored') {
      const id = attributes().get('id');
      if (id !== undefined && this.#anchors.has(id))
        this.#anchor(id, token, outcome === 'foreign', wasForeign);
    }
    if (outcome === 'raw-text') this.#tokenizer.enterRawText(token.name);
  }

  #anchor(id: string, token: Token, isForeign: boolean, parentIsForeign: boolean): void {
    if (parentIsForeign) this.#sink.refuseAnchor(id, 'before');
    else this.#sink.anchor(id, 'before', token.start);
    const childless =
      VOID_ELEMENTS.has(token.name) || RAW_TEXT_ELEMENTS.has(token.name) || token.name === 'template';
    if (isForeign || childless) this.#sink.refuseAnchor(id, 'inside');
    else this.#sink.anchor(id, 'inside', token.end);
  }

  #implyHead(offset: number): void {
    this.#mode = 'in-head';
    this.#headUnwritten = true;
    this.#sink.place('head-start', offset, 'head');
  }

  #endHead(offset: number): void {
    this.#mode = 'after-head';
    this.#sink.place('head-end', offset, this.#headUnwritten ? 'head' : undefined);
    this.#headUnwritten = false;
  }

  /** Something at `offset` that only a body can hold, or its end. */
  #toBody(offset: number): void {
    if (this.#mode === 'before-head') this.#implyHead(offset);
    if (this.#mode === 'in-head') this.#endHead(offset);
    if (this.#mode === 'after-head') {
      this.#mode = 'in-body';
      this.#sink.place('body-start', offset, 'body');
    }
  }

  #endBody(offset: number): void {
    if (this.#bodyEnded) return;
    this.#bodyEnded = true;
    if (this.#open.isForeign) this.#sink.leaveOut('body-end', 'inside-foreign');
    else this.#sink.place('body-end', offset);
  }
}
