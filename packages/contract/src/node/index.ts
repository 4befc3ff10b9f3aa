export { isLocalAddress, isLocalHost } from './local-addresses.js';
export { localhostFetch } from './fetch.js';
export { isLocalhost, localhostLookup } from './localhost-lookup.js';
export { isLanguageSet, speakAsSet } from './speak.js';
