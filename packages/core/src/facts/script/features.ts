import type { Value } from './values.js';

/** Calls of the browser's own functions, by their path from window, that a permissions policy has a say in. */
const BY_CALL: Readonly<{ [path: string]: string }> = {
  'navigator.geolocation.getCurrentPosition': 'geolocation',
  'navigator.geolocation.watchPosition': 'geolocation',
  'navigator.mediaDevices.getDisplayMedia': 'display-capture',
  'navigator.clipboard.read': 'clipboard-read',
  'navigator.clipboard.readText': 'clipboard-read',
  'navigator.clipboard.write': 'clipboard-write',
  'navigator.clipboard.writeText': 'clipboard-write',
  'navigator.share': 'web-share',
  'navigator.wakeLock.request': 'screen-wake-lock',
  'navigator.credentials.create': 'publickey-credentials-create',
  'navigator.requestMIDIAccess': 'midi',
  'navigator.requestMediaKeySystemAccess': 'encrypted-media',
  'navigator.usb.requestDevice': 'usb',
  'navigator.hid.requestDevice': 'hid',
  'navigator.serial.requestPort': 'serial',
  'navigator.bluetooth.requestDevice': 'bluetooth',
  'navigator.xr.requestSession': 'xr-spatial-tracking',
  'navigator.getBattery': 'battery',
  'document.requestStorageAccess': 'storage-access',
};

/** Methods that mean the same on whatever element they are called. */
const BY_METHOD: Readonly<{ [name: string]: string }> = {
  requestFullscreen: 'fullscreen',
  webkitRequestFullscreen: 'fullscreen',
  requestPictureInPicture: 'picture-in-picture',
};

const BY_CONSTRUCTOR: Readonly<{ [name: string]: readonly string[] }> = {
  PaymentRequest: ['payment'],
  Accelerometer: ['accelerometer'],
  LinearAccelerationSensor: ['accelerometer'],
  GravitySensor: ['accelerometer'],
  Gyroscope: ['gyroscope'],
  Magnetometer: ['magnetometer'],
  AmbientLightSensor: ['ambient-light-sensor'],
  IdleDetector: ['idle-detection'],
};

/** Events that never come where they are not allowed. */
const BY_EVENT: Readonly<{ [name: string]: string }> = {
  unload: 'unload',
  devicemotion: 'accelerometer',
  deviceorientation: 'gyroscope',
};

const LISTENS = /(?:^|\.)addEventListener$/;
const HTTP_METHOD = /^(?:GET|POST|HEAD|PUT)$/i;

/**
 * Features that a call asks for, by the names of the Permissions Policy's registry.
 *
 * @param path - from window, of a function of the browser's own
 * @param name - of the method that is called
 */
export function askedFeatures(
  path: string | undefined,
  name: string | undefined,
  args: readonly Value[],
): readonly string[] {
  const [first, , third] = args;
  if (path === 'navigator.mediaDevices.getUserMedia' || path === 'navigator.getUserMedia')
    return media(first);
  if (path === 'navigator.credentials.get') return credentials(first);
  if (path !== undefined && LISTENS.test(path)) return eventOf(first);
  const feature = (path && BY_CALL[path]) ?? (name === undefined ? undefined : BY_METHOD[name]);
  if (feature !== undefined) return [feature];
  // A request that the page waits for.
  const isSync =
    name === 'open' &&
    third?.kind === 'plain' &&
    third.value === false &&
    first?.kind === 'text' &&
    HTTP_METHOD.test(first.text);
  return isSync ? ['sync-xhr'] : [];
}

export function constructedFeatures(name: string): readonly string[] {
  return BY_CONSTRUCTOR[name] ?? [];
}

function eventOf(event: Value | undefined): string[] {
  const feature = event?.kind === 'text' ? BY_EVENT[event.text] : undefined;
  return feature === undefined ? [] : [feature];
}

/** Camera and microphone, as far as the constraints say which. */
function media(constraints: Value | undefined): string[] {
  if (constraints?.kind !== 'object') return [];
  const wants = (name: string): boolean => {
    const value = constraints.properties.get(name);
    return value !== undefined && !(value.kind === 'plain' && !value.value);
  };
  return [...(wants('video') ? ['camera'] : []), ...(wants('audio') ? ['microphone'] : [])];
}

const CREDENTIALS: Readonly<{ [kind: string]: string }> = {
  publicKey: 'publickey-credentials-get',
  identity: 'identity-credentials-get',
  otp: 'otp-credentials',
};

function credentials(options: Value | undefined): string[] {
  if (options?.kind !== 'object') return [];
  return Object.entries(CREDENTIALS).flatMap(([kind, feature]) =>
    options.properties.has(kind) ? [feature] : [],
  );
}
