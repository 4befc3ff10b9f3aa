import { Ints } from './memory.js';
import { Tag, TAG_NAMES } from './tags.js';

/** What the Standard's lists say of an element in the HTML namespace, as bits. */
export const enum Is {
  /** 13.2.4.2, "special" */
  Special = 1,
  /** ends "has an element in scope" */
  Scope = 2,
  /** ends "in list item scope" as well */
  ListScope = 4,
  /** ends "in button scope" as well */
  ButtonScope = 8,
  /** ends "in table scope" */
  TableScope = 16,
  /** closed by "generate implied end tags" */
  Implied = 32,
  /** closed by "generate all implied end tags thoroughly" */
  ImpliedThoroughly = 64,
  /** 13.2.4.2, "formatting" */
  Formatting = 128,
  /** ends foreign content (13.2.6.5); `font` only with certain attributes */
  Breakout = 256,
  Heading = 512,
  /** table, tbody, tfoot, thead, tr: text and elements in them are moved in front of the table */
  TableContext = 1024,
  /** stands between the search for an open li, dd or dt and its end (special but for address, div and p) */
  ItemBoundary = 2048,
  /** selects an insertion mode when it is reset (13.2.4.1) */
  SelectsMode = 4096,
  /** decides whether `</body>` counts or text is markup; all other elements can be passed over (see `fast-path.ts`) */
  Skeleton = 8192,
  /** td and th */
  Cell = 16384,
}

/** What a start tag does "in body" (13.2.6.4.7); one number per branch. */
export const enum Start {
  Ordinary,
  Html,
  HeadElement,
  Body,
  Frameset,
  Block,
  Heading,
  Pre,
  Form,
  ListItem,
  DefinitionItem,
  Plaintext,
  Button,
  A,
  Formatting,
  Nobr,
  Marked,
  Table,
  Void,
  Input,
  Param,
  Hr,
  Textarea,
  Xmp,
  Iframe,
  RawText,
  Select,
  Option,
  RubyBase,
  RubyText,
  Math,
  Svg,
  Ignored,
}

/** What an end tag does "in body". */
export const enum End {
  Other,
  Template,
  Body,
  Html,
  Block,
  Form,
  P,
  ListItem,
  DefinitionItem,
  Heading,
  Formatting,
  Marked,
  Br,
}

const SPECIAL =
  ' address applet area article aside base basefont bgsound blockquote body br button caption center col colgroup dd ' +
  'details dir div dl dt embed fieldset figcaption figure footer form frame frameset h1 h2 h3 h4 h5 h6 head header ' +
  'hgroup hr html iframe img input keygen li link listing main marquee menu meta nav noembed noframes noscript ' +
  'object ol p param plaintext pre script search section select source style summary table tbody td template ' +
  'textarea tfoot th thead title tr track ul wbr xmp ';
const NOT_ITEM_BOUNDARY = ' address div p ';
const SCOPE = ' applet caption html table td th marquee object template ';
const TABLE_SCOPE = ' html table template ';
const IMPLIED = ' dd dt li optgroup option p rb rp rt rtc ';
const IMPLIED_THOROUGHLY = IMPLIED + 'caption colgroup tbody td tfoot th thead tr ';
const FORMATTING = ' a b big code em font i nobr s small strike strong tt u ';
export const BREAKOUT =
  ' b big blockquote body br center code dd div dl dt em embed h1 h2 h3 h4 h5 h6 head hr i img li listing menu meta ' +
  'nobr ol p pre ruby s small span strong strike sub sup table tt u ul var font ';
/** Foreign elements that may hold HTML (13.2.6, integration points), in lower case. */
export const HOLDS_HTML = ' foreignobject desc title mi mo mn ms mtext annotation-xml ';
const TABLE_CONTEXT = ' table tbody tfoot thead tr ';
const SELECTS_MODE =
  ' select td th tr tbody thead tfoot caption colgroup table template head body frameset html ';
const BLOCK =
  ' address article aside blockquote center details dialog dir div dl fieldset figcaption figure footer header hgroup ' +
  'main menu nav ol p search section summary ul ';
const BLOCK_END = BLOCK + 'button listing pre ';
const HEADING = ' h1 h2 h3 h4 h5 h6 ';
const MARKED = ' applet marquee object ';

/** Names of at most eight letters but for the last one. */
export const SKELETON =
  ' table td th tr tbody thead tfoot caption col colgroup template select object applet marquee svg math script style ' +
  'title textarea xmp iframe noembed noframes noscript body html plaintext ';

/** Slots for finding a name's number. */
const SLOTS = 512;

/** The tables, filled once for each machine: a machine is made while a visitor waits. */
export class Classes {
  readonly bits: Ints = new Ints(Tag.Known);
  readonly starts: Ints = new Ints(Tag.Known);
  readonly ends: Ints = new Ints(Tag.Known);
  /** By slot: the number of a name plus one. */
  readonly #slots: Ints = new Ints(SLOTS);
  /** By number: where the name begins in `TAG_NAMES`. */
  readonly #at: Ints = new Ints(Tag.Known + 1);

  constructor() {
    this.#number();
    this.#fillBits();
    this.#fillStarts();
    this.#fillEnds();
  }

  is(tag: number, bits: number): boolean {
    return tag < Tag.Known && (this.bits.get(tag) & bits) !== 0;
  }

  /** The number of the name in `[from, to)` of a text, or -1 for one that is not known. */
  numberOf(text: string, from: number, to: number): number {
    let slot = slotOf(text, from, to);
    let tag = this.#slots.get(slot) - 1;
    while (tag >= 0 && !this.#isName(tag, text, from, to)) {
      slot = (slot + 1) & (SLOTS - 1);
      tag = this.#slots.get(slot) - 1;
    }
    return tag;
  }

  #isName(tag: number, text: string, from: number, to: number): boolean {
    const at = this.#at.get(tag);
    if (this.#at.get(tag + 1) - 1 - at !== to - from) return false;
    for (let i = from; i < to; i++)
      if (text.charCodeAt(i) !== TAG_NAMES.charCodeAt(at + i - from)) return false;
    return true;
  }

  #number(): void {
    let from = 0;
    let tag = 0;
    while (from < TAG_NAMES.length) {
      const to = nameEnd(TAG_NAMES, from);
      let slot = slotOf(TAG_NAMES, from, to);
      while (this.#slots.get(slot) !== 0) slot = (slot + 1) & (SLOTS - 1);
      this.#slots.set(slot, tag + 1);
      this.#at.set(tag, from);
      this.#at.set(tag + 1, to + 1);
      from = to + 1;
      tag++;
    }
  }

  #fillBits(): void {
    this.#mark(SPECIAL, Is.Special | Is.ItemBoundary);
    this.#mark(SCOPE, Is.Scope);
    this.#mark(' ol ul ', Is.ListScope);
    this.#mark(' button ', Is.ButtonScope);
    this.#mark(TABLE_SCOPE, Is.TableScope);
    this.#mark(IMPLIED, Is.Implied);
    this.#mark(IMPLIED_THOROUGHLY, Is.ImpliedThoroughly);
    this.#mark(FORMATTING, Is.Formatting);
    this.#mark(BREAKOUT, Is.Breakout);
    this.#mark(HEADING, Is.Heading);
    this.#mark(TABLE_CONTEXT, Is.TableContext);
    this.#mark(SELECTS_MODE, Is.SelectsMode);
    this.#mark(SKELETON, Is.Skeleton);
    this.#mark(' td th ', Is.Cell);
    this.#clear(NOT_ITEM_BOUNDARY, Is.ItemBoundary);
  }

  #fillStarts(): void {
    this.#start(BLOCK, Start.Block);
    this.#start(HEADING, Start.Heading);
    this.#start(FORMATTING, Start.Formatting);
    this.#start(' a ', Start.A);
    this.#start(' nobr ', Start.Nobr);
    this.#start(' li ', Start.ListItem);
    this.#start(' dd dt ', Start.DefinitionItem);
    this.#start(' area br embed img keygen wbr image ', Start.Void);
    this.#start(' hr ', Start.Hr);
    this.#start(' rb rtc ', Start.RubyBase);
    this.#start(' rt rp ', Start.RubyText);
    this.#start(' pre listing ', Start.Pre);
    this.#start(' xmp ', Start.Xmp);
    this.#start(' svg ', Start.Svg);
    this.#start(' math ', Start.Math);
    this.#start(' html ', Start.Html);
    this.#start(' base link meta style title script bgsound basefont template ', Start.HeadElement);
    this.#start(' body ', Start.Body);
    this.#start(' form ', Start.Form);
    this.#start(' table ', Start.Table);
    this.#start(' input ', Start.Input);
    this.#start(' param track source ', Start.Param);
    this.#start(' button ', Start.Button);
    this.#start(MARKED, Start.Marked);
    this.#start(' iframe ', Start.Iframe);
    this.#start(' select ', Start.Select);
    this.#start(' option optgroup ', Start.Option);
    this.#start(' noembed noframes noscript ', Start.RawText);
    this.#start(' frameset ', Start.Frameset);
    this.#start(' textarea ', Start.Textarea);
    this.#start(' plaintext ', Start.Plaintext);
    this.#start(' col th td tr head frame tbody tfoot thead caption colgroup ', Start.Ignored);
  }

  #fillEnds(): void {
    this.#end(BLOCK_END, End.Block);
    this.#end(FORMATTING, End.Formatting);
    this.#end(' p ', End.P);
    this.#end(' li ', End.ListItem);
    this.#end(' dd dt ', End.DefinitionItem);
    this.#end(HEADING, End.Heading);
    this.#end(' br ', End.Br);
    this.#end(' body ', End.Body);
    this.#end(' html ', End.Html);
    this.#end(' form ', End.Form);
    this.#end(MARKED, End.Marked);
    this.#end(' template ', End.Template);
  }

  #mark(names: string, bits: number): void {
    let from = 1;
    while (from < names.length) {
      const to = nameEnd(names, from);
      const tag = this.numberOf(names, from, to);
      if (tag >= 0) this.bits.set(tag, this.bits.get(tag) | bits);
      from = to + 1;
    }
  }

  #clear(names: string, bits: number): void {
    let from = 1;
    while (from < names.length) {
      const to = nameEnd(names, from);
      const tag = this.numberOf(names, from, to);
      if (tag >= 0) this.bits.set(tag, this.bits.get(tag) & ~bits);
      from = to + 1;
    }
  }

  /** What was said last of a name holds. */
  #start(names: string, start: number): void {
    let from = 1;
    while (from < names.length) {
      const to = nameEnd(names, from);
      const tag = this.numberOf(names, from, to);
      if (tag >= 0) this.starts.set(tag, start);
      from = to + 1;
    }
  }

  #end(names: string, end: number): void {
    let from = 1;
    while (from < names.length) {
      const to = nameEnd(names, from);
      const tag = this.numberOf(names, from, to);
      if (tag >= 0) this.ends.set(tag, end);
      from = to + 1;
    }
  }
}

/** The end of the name that begins at `from`: the next space, or the end of the names. */
function nameEnd(names: string, from: number): number {
  let at = from;
  while (at < names.length && names.charCodeAt(at) !== 0x20) at++;
  return at;
}

function slotOf(text: string, from: number, to: number): number {
  let hash = to - from;
  for (let i = from; i < to; i++) hash = (hash * 31 + text.charCodeAt(i)) & 0xffff;
  return hash & (SLOTS - 1);
}
