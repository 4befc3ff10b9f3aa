/**
 * Forgets what is kept for a session, on the first page after somebody has come back. Runs in the page.
 *
 * @param count - how often they have come back; the window's name remembers it from page to page
 */
export function beginSession(count: number): void {
  const name = 'pragmatica-back-';
  const before = window.name.startsWith(name) ? Number(window.name.slice(name.length)) : 0;
  if (before >= count) return;
  window.name = name + String(count);
  try {
    sessionStorage.clear();
  } catch {
    // Storage that is forbidden holds nothing.
  }
}
