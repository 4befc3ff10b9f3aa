import Bowser from 'bowser';
import { memoizeByText } from '../memoize/by-text.js';
import { REACH_TEXTS } from '../texts/reach.js';
import { listWords } from './pages/index.js';

export const DEVICES = ['phone', 'tablet', 'desktop'] as const;
export type Device = (typeof DEVICES)[number];

/** What a request says of its device; header names in lower case, as Node gives them. */
export type DeviceHeaders = Readonly<Record<string, string | string[] | undefined>>;

/** What a browser is asked to send of itself (User-Agent Client Hints), and what the answer then depends on. */
export const DEVICE_HINT = 'Sec-CH-UA-Form-Factors';
export const DEVICE_HEADERS = [DEVICE_HINT, 'Sec-CH-UA-Mobile', 'Sec-CH-UA-Platform', 'User-Agent'] as const;

/** Form factors by what they are for people; others, like "XR", tell nothing. */
const FORM_FACTORS: readonly (readonly [string, Device])[] = [
  ['"Tablet"', 'tablet'],
  ['"Mobile"', 'phone'],
  ['"Desktop"', 'desktop'],
];

/** From client hints where they are sent, otherwise from the User-Agent; what tells nothing is a desktop. */
export function deviceOf(headers: DeviceHeaders): Device {
  const factors = one(headers['sec-ch-ua-form-factors']);
  const factor = FORM_FACTORS.find(([name]) => factors?.includes(name) === true);
  if (factor) return factor[1];
  const mobile = one(headers['sec-ch-ua-mobile']);
  if (mobile === '?1') return 'phone';
  if (mobile === '?0') return isTouchPlatform(one(headers['sec-ch-ua-platform'])) ? 'tablet' : 'desktop';
  return ofUserAgent(one(headers['user-agent']) ?? '');
}

function one(value: string | string[] | undefined): string | undefined {
  return Array.isArray(value) ? value[0] : value;
}

/** A platform of phones that says it is none is on a tablet. */
function isTouchPlatform(platform: string | undefined): boolean {
  return platform !== undefined && Bowser.OS_MAP['Android'] === platform.replaceAll('"', '');
}

const MAX_AGENT_LENGTH = 512;
const KINDS: Readonly<Record<string, Device>> = { mobile: 'phone', tablet: 'tablet' };

/** Browsers send the same text with every request, and most visitors one of a few. */
const ofUserAgent = memoizeByText(2_000, (agent): Device => {
  if (agent === '') return 'desktop';
  const { type } = Bowser.parse(agent.slice(0, MAX_AGENT_LENGTH)).platform;
  return KINDS[type ?? ''] ?? 'desktop';
});

/** "phones and tablets". */
export function devicesWords(devices: readonly Device[]): string {
  return listWords(
    DEVICES.filter((device) => devices.includes(device)).map((device) => REACH_TEXTS.deviceNames[device]),
  );
}

/** One of them: "phone". */
export function deviceName(device: Device): string {
  return REACH_TEXTS.deviceName[device];
}
