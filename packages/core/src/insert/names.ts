/** Start tags that stay in the head (HTML Standard 13.2.6.4.4, "in head"). */
export const HEAD_ELEMENTS: ReadonlySet<string> = new Set(
  'base basefont bgsound link meta title noscript noframes style script template'.split(' '),
);
