import type { Device } from '../reach/index.js';

/** What somebody does in a visit, one thing after the other. */
export type VisitStep =
  /** Types an address, or follows a link out of the blue. */
  | { readonly do: 'open'; readonly path: string }
  | { readonly do: 'wait'; readonly seconds: number }
  /** Scrolls down until so much of the page has been in sight, in percent. */
  | { readonly do: 'scroll'; readonly percent: number }
  /** Moves the pointer out of the window at its top, as on the way to close it. */
  | { readonly do: 'leave' }
  /** Answers the consent banner as a person would: by its buttons. */
  | { readonly do: 'consent'; readonly choice: 'accept' | 'refuse' }
  /** Comes back to the page as a later visit of the same person. */
  | { readonly do: 'return'; readonly path: string; readonly days: number }
  /** Clicks what a selector of CSS means. */
  | { readonly do: 'click'; readonly selector: string }
  /** Moves on within a single-page application: a link is clicked, or the address changes without a page load. */
  | { readonly do: 'move-on'; readonly path: string };

/** One visit as data: who comes, and what they do. */
export interface VisitScript {
  readonly device: Device;
  /** Width of the window in CSS pixels; the device's usual one when left out. */
  readonly width?: number;
  /**
   * The moment that the browser's clock shows at the start, in milliseconds since 1970; the real one when left out. The visit
   * gets the page of that moment.
   */
  readonly clock?: number;
  /** Somebody who has agreed to everything before: the cookie that says so is there from the start, where one is known. */
  readonly hasAgreed?: boolean;
  readonly steps: readonly VisitStep[];
}

/** Windows of the devices, in CSS pixels: usual ones. */
export const DEVICE_WINDOWS: Readonly<Record<Device, { readonly width: number; readonly height: number }>> = {
  desktop: { width: 1280, height: 800 },
  tablet: { width: 820, height: 1180 },
  phone: { width: 390, height: 844 },
};
