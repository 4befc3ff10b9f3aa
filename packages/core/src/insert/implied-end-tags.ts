/** Names that "in body" (HTML Standard 13.2.6.4.7) treats alike, for what they close. */

const set = (names: string): ReadonlySet<string> => new Set(names.split(' '));

/** Start tags that close an open p first. */
export const CLOSES_P = set(
  'address article aside blockquote center details dialog dir div dl fieldset figcaption figure footer header hgroup ' +
    'main menu nav ol p search section summary ul h1 h2 h3 h4 h5 h6 pre listing form li dd dt plaintext table hr xmp',
);

/** End tags that close down to their element if it is in scope. */
export const CLOSES_BLOCK = set(
  'address article aside blockquote button center details dialog dir div dl fieldset figcaption figure footer form ' +
    'header hgroup listing main menu nav ol pre search section summary ul dd dt',
);

export const HEADINGS = set('h1 h2 h3 h4 h5 h6');

/** Elements that can be closed out of order ("formatting", 13.2.4.2). */
export const FORMATTING = set('a b big code em font i nobr s small strike strong tt u');

/** The category "special" (13.2.4.2) in the HTML namespace: an unknown end tag does not reach past one. */
export const SPECIAL = set(
  'address applet area article aside base basefont bgsound blockquote body br button caption center col colgroup dd ' +
    'details dir div dl dt embed fieldset figcaption figure footer form frame frameset h1 h2 h3 h4 h5 h6 head header ' +
    'hgroup hr html iframe img input keygen li link listing main marquee menu meta nav noembed noframes noscript ' +
    'object ol p param plaintext pre script search section select source style summary table tbody td template ' +
    'textarea tfoot th thead title tr track ul wbr xmp',
);
