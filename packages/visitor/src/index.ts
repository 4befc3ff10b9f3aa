export { NoBrowserError, findChromium, startChromium, type StartedChromium } from './chromium.js';
export { FreshWindows, type FreshWindow, type WindowShape } from './fresh-windows.js';
export type { RewrittenAnswer, VisitOrder } from './order.js';
export type { Visited } from './visit.js';
export { BrowserPool, type PoolOptions } from './browser-pool.js';
export { notDelivered, type NewElement } from './not-delivered.js';
