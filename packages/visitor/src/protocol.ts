/** What a browser says of its pages (Chrome DevTools Protocol). */
export type { Protocol } from 'devtools-protocol';
