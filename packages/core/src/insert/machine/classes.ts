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
  /** decides whether `</body>` counts or text is markup; all other elements can be passed over (see `quick.ts`) */
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

/** The tables, filled once. */
export class Classes {
  readonly bits: Ints = new Ints(Tag.Known);
  readonly starts: Ints = new Ints(Tag.Known);
  readonly ends: Ints = new Ints(Tag.Known);

  constructor() {
    let from = 0;
    let tag = 0;
    while (from < TAG_NAMES.length) {
      let to = TAG_NAMES.indexOf(' ', from);
      if (to < 0) to = TAG_NAMES.length;
      const name = ' ' + TAG_NAMES.substring(from, to) + ' ';
      this.bits.set(tag, bitsOf(name));
      this.starts.set(tag, startOf(name));
      this.ends.set(tag, endOf(name));
      from = to + 1;
      tag++;
    }
  }

  is(tag: number, bits: number): boolean {
    return tag < Tag.Known && (this.bits.get(tag) & bits) !== 0;
  }
}

function bitsOf(name: string): number {
  let bits = 0;
  if (SPECIAL.includes(name)) {
    bits |= Is.Special;
    if (!NOT_ITEM_BOUNDARY.includes(name)) bits |= Is.ItemBoundary;
  }
  if (SCOPE.includes(name)) bits |= Is.Scope;
  if (' ol ul '.includes(name)) bits |= Is.ListScope;
  if (name === ' button ') bits |= Is.ButtonScope;
  if (TABLE_SCOPE.includes(name)) bits |= Is.TableScope;
  if (IMPLIED.includes(name)) bits |= Is.Implied;
  if (IMPLIED_THOROUGHLY.includes(name)) bits |= Is.ImpliedThoroughly;
  if (FORMATTING.includes(name)) bits |= Is.Formatting;
  if (BREAKOUT.includes(name)) bits |= Is.Breakout;
  if (HEADING.includes(name)) bits |= Is.Heading;
  if (TABLE_CONTEXT.includes(name)) bits |= Is.TableContext;
  if (SELECTS_MODE.includes(name)) bits |= Is.SelectsMode;
  if (SKELETON.includes(name)) bits |= Is.Skeleton;
  if (' td th '.includes(name)) bits |= Is.Cell;
  return bits;
}

function startOf(name: string): number {
  if (BLOCK.includes(name)) return Start.Block;
  if (HEADING.includes(name)) return Start.Heading;
  if (name === ' a ') return Start.A;
  if (name === ' nobr ') return Start.Nobr;
  if (FORMATTING.includes(name)) return Start.Formatting;
  if (name === ' li ') return Start.ListItem;
  if (' dd dt '.includes(name)) return Start.DefinitionItem;
  if (' area br embed img keygen wbr image '.includes(name)) return Start.Void;
  if (name === ' hr ') return Start.Hr;
  if (' rb rtc '.includes(name)) return Start.RubyBase;
  if (' rt rp '.includes(name)) return Start.RubyText;
  if (' pre listing '.includes(name)) return Start.Pre;
  if (name === ' xmp ') return Start.Xmp;
  if (name === ' svg ') return Start.Svg;
  if (name === ' math ') return Start.Math;
  if (name === ' html ') return Start.Html;
  if (' base link meta style title script bgsound basefont template '.includes(name))
    return Start.HeadElement;
  if (name === ' body ') return Start.Body;
  if (name === ' form ') return Start.Form;
  if (name === ' table ') return Start.Table;
  if (name === ' input ') return Start.Input;
  if (' param track source '.includes(name)) return Start.Param;
  if (name === ' button ') return Start.Button;
  if (MARKED.includes(name)) return Start.Marked;
  if (name === ' iframe ') return Start.Iframe;
  if (name === ' select ') return Start.Select;
  if (' option optgroup '.includes(name)) return Start.Option;
  if (' noembed noframes noscript '.includes(name)) return Start.RawText;
  if (name === ' frameset ') return Start.Frameset;
  if (name === ' textarea ') return Start.Textarea;
  if (name === ' plaintext ') return Start.Plaintext;
  if (' col th td tr head frame tbody tfoot thead caption colgroup '.includes(name)) return Start.Ignored;
  return Start.Ordinary;
}

function endOf(name: string): number {
  if (FORMATTING.includes(name)) return End.Formatting;
  if (name === ' p ') return End.P;
  if (BLOCK_END.includes(name)) return End.Block;
  if (name === ' li ') return End.ListItem;
  if (' dd dt '.includes(name)) return End.DefinitionItem;
  if (HEADING.includes(name)) return End.Heading;
  if (name === ' br ') return End.Br;
  if (name === ' body ') return End.Body;
  if (name === ' html ') return End.Html;
  if (name === ' form ') return End.Form;
  if (MARKED.includes(name)) return End.Marked;
  if (name === ' template ') return End.Template;
  return End.Other;
}
