import { tieOfParts } from '../tie.js';

/** On known pages: files of which nobody knows what they do, and what such a file may make or bring. */
export const byUnread = tieOfParts(({ facts: { loads, needs, uses } }, { pageCode, files }) =>
  pageCode.isKnown && (needs.length > 0 || uses.length > 0 || loads.some((load) => files.isUnread(load)))
    ? ['unread']
    : [],
);
