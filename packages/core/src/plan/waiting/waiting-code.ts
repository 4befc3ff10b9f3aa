import { isLimited, type Limits, type VisitorRules } from '../../reach/index.js';
import type { WaitingOptions } from './in-browser.js';
import { WAITING_KEYS, WAITING_SCRIPT } from './script.js';

/** The code of a part as it goes into pages: wrapped, where it waits for what only the visitor's browser knows. */
export function waitingCode(code: string, snippet: string, limits: Limits | undefined): string {
  const visitor = limits?.visitor;
  if (!isLimited(visitor)) return code;
  return `<template>${code}</template><script>${WAITING_SCRIPT}(${options(snippet, visitor)})</script>`;
}

/** The options as the script reads them, by their short names. */
function options(snippet: string, { who, ...others }: VisitorRules): string {
  const read: WaitingOptions = { ...others, snippet, visits: who && (who === 'first' ? 1 : 2) };
  const named = Object.entries(read).map(([name, value]: [string, unknown]) => [
    WAITING_KEYS[name as keyof WaitingOptions],
    value,
  ]);
  return JSON.stringify(Object.fromEntries(named));
}
