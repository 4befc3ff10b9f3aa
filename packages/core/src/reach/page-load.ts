import type { Device } from './device.js';
import type { PageAddress } from './pages/index.js';
import type { EnvironmentName } from './reach.js';

/** One page load, as far as reaches ask about it. */
export interface PageLoad {
  readonly page: PageAddress;
  readonly environment: EnvironmentName;
  readonly device: Device;
  /** Milliseconds since 1970. */
  readonly at: number;
  /** Keys of the categories that are agreed to. */
  readonly consent: readonly string[];
  /** Undefined: not asked, so either may be. */
  readonly visitor?: 'first' | 'returning';
  /** Width of the window in CSS pixels; undefined where not asked. */
  readonly width?: number;
}
