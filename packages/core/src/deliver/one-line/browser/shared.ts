import type { LineLive } from '../types.js';

/** What the pointer and the release share on a page. */
export type LineState = [
  /** The line itself. */
  line: HTMLScriptElement,
  live: LineLive,
  trusted: TrustedPolicy,
  /** Set once the release has run. */
  hasRun?: boolean,
];

interface TrustedPolicy {
  createHTML(text: string): string;
  createScript(text: string): string;
  createScriptURL(text: string): string;
}

declare global {
  interface Document {
    pgmOne?: LineState;
  }
  interface Window {
    trustedTypes?: { createPolicy(name: string, rules: TrustedPolicy): TrustedPolicy };
  }
}

const plain = (text: string): string => text;
const NOTHING_DONE: TrustedPolicy = { createHTML: plain, createScript: plain, createScriptURL: plain };

/** Texts as a page with Trusted Types takes them, where it lets us have a policy; otherwise as they are. */
const trust = (): TrustedPolicy => {
  try {
    return window.trustedTypes!.createPolicy('pragmatica', NOTHING_DONE);
  } catch {
    return NOTHING_DONE;
  }
};

/** What is shared on the page; undefined where nothing is to be done. */
export const stateOf = (live: LineLive): LineState | undefined => {
  const line = document.currentScript as HTMLScriptElement | null;
  // The line may stand there twice; or the page is asked for without any of ours, to find out who is to blame.
  if (!line || document.pgmOne || /[?&]pragmatica=off(?:&|$)/.test(location.search)) return undefined;
  return (document.pgmOne = [line, live, trust()]);
};

/** Whether a script stands in a head that is being parsed, and the parser waits for it. */
export const isInOrder = (script: HTMLScriptElement): boolean =>
  document.readyState === 'loading' &&
  !script.async &&
  !script.defer &&
  script.type !== 'module' &&
  document.head.contains(script);

/** The start of a script tag with its address. */
export const scriptTag = (address: string, nonce = ''): string =>
  `<script src="${address}"${nonce && ` nonce="${nonce}"`}></script>`;
