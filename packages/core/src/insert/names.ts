/** Element names that the HTML Standard's tree construction treats alike (13.2.6). */

const set = (names: string): ReadonlySet<string> => new Set(names.split(' '));

/** Start tags that stay in the head ("in head" insertion mode). */
export const HEAD_ELEMENTS = set(
  'base basefont bgsound link meta title noscript noframes style script template',
);

/** Start tags that are moved into the head after it has ended ("after head"): noscript is not one of them. */
export const LATE_HEAD_ELEMENTS = set('base basefont bgsound link meta noframes script style template title');

/** Elements whose text is not markup, by the tokenizer state that their start tag switches to; scripting is on. */
export const RAW_TEXT_ELEMENTS = set(
  'title textarea style xmp iframe noembed noframes noscript script plaintext',
);

export const VOID_ELEMENTS = set(
  'area base basefont bgsound br col embed frame hr img input keygen link meta param source track wbr',
);

/** Elements that end the search "has an element in scope" (13.2.4.2), as far as they can stand in a body. */
export const SCOPE_ELEMENTS = set('applet caption marquee object table td th template');

/** Start tags that end foreign content (13.2.6.5). `font` counts only with a color, face or size. */
export const FOREIGN_BREAKOUT = set(
  'b big blockquote body br center code dd div dl dt em embed h1 h2 h3 h4 h5 h6 head hr i img li listing menu meta ' +
    'nobr ol p pre ruby s small span strong strike sub sup table tt u ul var',
);

export const MATHML_TEXT_INTEGRATION = set('mi mo mn ms mtext');
export const SVG_HTML_INTEGRATION = set('foreignobject desc title');

/** Start tags that a select leaves to its surroundings ("in select"): these close it first. */
export const CLOSE_SELECT = set('input keygen textarea');

/** Structure of a table: these clear the stack back to the table. */
export const TABLE_STRUCTURE = set('caption col colgroup tbody tfoot thead tr td th');
