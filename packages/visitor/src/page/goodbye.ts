/**
 * What a page is told when its visitor goes: it is hidden, then left (HTML Standard, 7.4.2; Page Visibility). Nothing of it is looked
 * at afterwards. Handed to the browser as text, so it stands on its own.
 *
 * @returns when all that the page does about it at once is done, its microtasks too; a page that is left has no more time
 */
export function sayGoodbye(): Promise<void> {
  Object.defineProperty(document, 'visibilityState', { configurable: true, get: () => 'hidden' });
  Object.defineProperty(document, 'hidden', { configurable: true, get: () => true });
  document.dispatchEvent(new Event('visibilitychange', { bubbles: true }));
  window.dispatchEvent(new PageTransitionEvent('pagehide', { persisted: false }));
  const { port1, port2 } = new MessageChannel();
  return new Promise((resolve) => {
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(0);
  });
}
