/**
 * Names that browsers bring as properties of window (HTML, DOM, ECMAScript and other web standards): using one needs
 * nothing of the site. Names are the standards' own.
 */
const NAMES =
  'window self globalThis top parent frames document location history navigator screen customElements visualViewport ' +
  'localStorage sessionStorage indexedDB caches crypto performance console scheduler trustedTypes cookieStore ' +
  'name status closed length opener frameElement origin isSecureContext crossOriginIsolated external event ' +
  'innerWidth innerHeight outerWidth outerHeight scrollX scrollY pageXOffset pageYOffset screenX screenY screenLeft ' +
  'screenTop devicePixelRatio menubar toolbar locationbar personalbar scrollbars statusbar clientInformation ' +
  'speechSynthesis launchQueue navigation fence sharedStorage documentPictureInPicture ' +
  'alert confirm prompt print open close stop focus blur postMessage moveTo moveBy resizeTo resizeBy scroll scrollTo ' +
  'scrollBy getComputedStyle getSelection matchMedia find setTimeout clearTimeout setInterval clearInterval ' +
  'requestAnimationFrame cancelAnimationFrame requestIdleCallback cancelIdleCallback queueMicrotask ' +
  'structuredClone attachEvent detachEvent fetch atob btoa createImageBitmap reportError addEventListener removeEventListener dispatchEvent ' +
  'Object Function Array String Number Boolean Symbol BigInt Math Date RegExp JSON Promise Proxy Reflect Map Set ' +
  'WeakMap WeakSet WeakRef FinalizationRegistry ArrayBuffer SharedArrayBuffer DataView Atomics Intl Iterator ' +
  'Int8Array Uint8Array Uint8ClampedArray Int16Array Uint16Array Int32Array Uint32Array Float32Array Float64Array ' +
  'BigInt64Array BigUint64Array Error EvalError RangeError ReferenceError SyntaxError TypeError URIError ' +
  'AggregateError NaN Infinity undefined eval isNaN isFinite parseInt parseFloat encodeURI encodeURIComponent ' +
  'decodeURI decodeURIComponent escape unescape WebAssembly arguments ' +
  'Image Audio Option Event CustomEvent MessageEvent MouseEvent KeyboardEvent PointerEvent TouchEvent FocusEvent ' +
  'InputEvent SubmitEvent UIEvent WheelEvent StorageEvent PopStateEvent HashChangeEvent ProgressEvent ErrorEvent ' +
  'PromiseRejectionEvent PageTransitionEvent BeforeUnloadEvent AnimationEvent TransitionEvent EventTarget ' +
  'AbortController AbortSignal Blob File FileList FileReader FormData Headers Request Response URL URLSearchParams ' +
  'URLPattern XMLHttpRequest WebSocket EventSource Worker SharedWorker ServiceWorker MessageChannel MessagePort ' +
  'BroadcastChannel TextEncoder TextDecoder TextEncoderStream TextDecoderStream ReadableStream WritableStream ' +
  'TransformStream CompressionStream DecompressionStream Notification PushManager IntersectionObserver ' +
  'MutationObserver ResizeObserver PerformanceObserver ReportingObserver PerformanceEntry Performance ' +
  'Node Element Document DocumentFragment ShadowRoot Text Comment Attr NodeList HTMLCollection NamedNodeMap ' +
  'DOMTokenList DOMParser XMLSerializer XPathResult TreeWalker NodeFilter Range Selection CSS CSSStyleSheet ' +
  'CSSStyleDeclaration StyleSheet MediaQueryList Navigator Location History Screen Storage Window Crypto ' +
  'SubtleCrypto CryptoKey DOMRect DOMPoint DOMMatrix DOMException Animation KeyframeEffect MediaRecorder MediaSource ' +
  'MediaStream RTCPeerConnection AudioContext OfflineAudioContext SpeechSynthesisUtterance CanvasRenderingContext2D ' +
  'Sensor Accelerometer LinearAccelerationSensor GravitySensor Gyroscope Magnetometer AmbientLightSensor ' +
  'AbsoluteOrientationSensor RelativeOrientationSensor DeviceOrientationEvent DeviceMotionEvent NDEFReader ' +
  'IdleDetector EyeDropper BarcodeDetector ' +
  'OffscreenCanvas ImageData ImageBitmap Path2D PaymentRequest Credential PublicKeyCredential IDBKeyRange ' +
  'module require exports define';

/** `HTMLDivElement` and its kin are too many to list. */
const INTERFACES = /^(HTML|SVG|MathML)\w*Element$/;
const HANDLERS =
  /^on(abort|afterprint|animation\w+|beforeprint|beforeunload|blur|change|click|contextmenu|copy|cut|dblclick|drag\w*|drop|error|focus|hashchange|input|invalid|key\w+|languagechange|load\w*|message\w*|mouse\w+|offline|online|page\w+|paste|pointer\w+|popstate|rejectionhandled|reset|resize|scroll\w*|select\w*|storage|submit|toggle|touch\w+|transition\w+|unhandledrejection|unload|wheel)$/;

/** Names that only mean something where a bundler or another environment runs; code asks for them with `typeof`. */
const known = new Set(NAMES.split(' '));

/** Whether every browser brings this global. */
export function isBrowserName(name: string): boolean {
  return known.has(name) || INTERFACES.test(name) || HANDLERS.test(name);
}

/** Names by which window calls itself. */
export function isWindowName(name: string): boolean {
  return (
    name === 'window' ||
    name === 'self' ||
    name === 'globalThis' ||
    name === 'top' ||
    name === 'parent' ||
    name === 'frames'
  );
}
