/**
 * What a page is told when its visitor goes: it is hidden, then left (HTML Standard, 7.4.2; Page Visibility). Nothing of it is looked
 * at afterwards. Handed to the browser as text, so it stands on its own.
 */
export function sayGoodbye(): void {
  Object.defineProperty(document, 'visibilityState', { configurable: true, get: () => 'hidden' });
  Object.defineProperty(document, 'hidden', { configurable: true, get: () => true });
  document.dispatchEvent(new Event('visibilitychange', { bubbles: true }));
  window.dispatchEvent(new PageTransitionEvent('pagehide', { persisted: false }));
}
