import { isLimited, type Limits, type VisitorRules } from '../../reach/index.js';
import { WAITING_SCRIPT } from './script.js';

/** The code of a part as it goes into pages: wrapped, where it waits for what only the visitor's browser knows. */
export function waitingCode(code: string, snippet: string, limits: Limits | undefined): string {
  const visitor = limits?.visitor;
  if (!isLimited(visitor)) return code;
  return `<template>${code}</template><script>${WAITING_SCRIPT}(${JSON.stringify(options(snippet, visitor))})</script>`;
}

function options(snippet: string, visitor: VisitorRules): Record<string, unknown> {
  const { who, minWidth, maxWidth, everyDays, afterSeconds, afterScroll, onLeaving } = visitor;
  return {
    k: snippet,
    w: who === undefined ? undefined : who === 'first' ? 1 : 2,
    n: minWidth,
    x: maxWidth,
    e: everyDays,
    s: afterSeconds,
    p: afterScroll,
    l: onLeaving === true ? 1 : undefined,
  };
}
