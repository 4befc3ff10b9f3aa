/*
 * What answers with parts in them say over HTTP (RFC 9110), wherever the parts are put in.
 */

/**
 * Whether an answer is a whole HTML document that may be changed (RFC 9110, 7.7: `no-transform`).
 *
 * @param status - of the answer
 */
export function isWholePage(
  status: number,
  contentType: string | undefined,
  cacheControl: string | undefined,
): boolean {
  if (status === 204 || status === 206 || status === 304) return false;
  if (!/^\s*text\/html\s*(;|$)/i.test(contentType ?? '')) return false;
  return !/\bno-transform\b/i.test(cacheControl ?? '');
}

/** Headers that speak of the bytes of a page as they were before: lengths, ranges, digests, dates. */
export const OF_THE_PAGES_BYTES = [
  'content-length',
  'accept-ranges',
  'content-md5',
  'digest',
  'repr-digest',
  'content-digest',
  'last-modified',
] as const;

const TAG_SUFFIX = /;pragmatica-(\w+)"$/;

/** The page's own tag with its parts in it: other parts make another representation (RFC 9110, 8.8.3). */
export function variantEtag(originTag: string, partsTag: string): string {
  const weak = originTag.startsWith('W/') ? originTag : `W/${originTag}`;
  return weak.replace(/"$/, `;pragmatica-${partsTag}"`);
}

/** Whether a client asks on top of a page that was made with these parts. */
export function hasTagOf(condition: string | undefined, partsTag: string): boolean {
  return items(condition).some((tag) => TAG_SUFFIX.exec(tag)?.[1] === partsTag);
}

/**
 * The page's own tags in a client's condition. Tags made with other parts are dropped: they do not hold. So are, where
 * a page gets parts, the page's own tags: they are of the page without parts. (Tags that hold a comma are split and then
 * match nothing, which is safe.)
 */
export function originCondition(
  condition: string | undefined,
  partsTag: string,
  getsParts: boolean,
): string | undefined {
  if (condition === undefined) return undefined;
  const tags = items(condition).flatMap((tag) => {
    const made = TAG_SUFFIX.exec(tag);
    if (!made) return getsParts ? [] : [tag];
    return made[1] === partsTag ? [tag.replace(TAG_SUFFIX, '"')] : [];
  });
  return tags.length > 0 ? tags.join(', ') : undefined;
}

/** Items of a comma-separated list, as they are. */
function items(value: string | undefined): string[] {
  return (value ?? '')
    .split(',')
    .map((item) => item.trim())
    .filter(Boolean);
}
