/**
 * Whether a page has an element with an id.
 *
 * @param dom - as browsers write it down: one space before an attribute, its value in double quotes (HTML Standard, 13.3)
 */
export function hasId(dom: string, id: string): boolean {
  const escaped = id.replaceAll('&', '&amp;').replaceAll('\u00a0', '&nbsp;').replaceAll('"', '&quot;');
  return dom.includes(` id="${escaped}"`);
}
