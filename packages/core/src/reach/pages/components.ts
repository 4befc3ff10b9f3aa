import type { Component } from './parts.js';
import { PatternError } from './tokens.js';
import { REACH_TEXTS } from '../../texts/reach.js';
import { say } from '../../texts/say.js';

/** A URL that is written anew for each text; only its parts count. */
const ANY = 'http://page.invalid';

/** URLPattern Standard, 3.2, "canonicalize a pathname": a piece of a path need not begin with a slash. */
function encodePath(text: string): string {
  if (text === '' || /^[\w\-~/]+$/.test(text)) return text;
  const isWhole = text.startsWith('/');
  const url = new URL(ANY + (isWhole ? text : `/-${text}`).replace(/[?#]/g, encodeURIComponent));
  return isWhole ? url.pathname : url.pathname.slice(2);
}

function encodeSearch(text: string): string {
  const url = new URL(ANY);
  url.search = text;
  return url.search.slice(1);
}

function encodeHost(text: string): string {
  const lower = text.toLowerCase();
  if (/^[a-z0-9.\-_]*$/.test(lower)) return lower;
  const url = `http://${lower.replace(/^\.|\.$/g, '')}`;
  if (/[/?#@:\s]/.test(lower) || !URL.canParse(url))
    throw new PatternError(say(REACH_TEXTS.textCannotHost, { text }));
  return `${lower.startsWith('.') ? '.' : ''}${new URL(url).hostname}${lower.endsWith('.') ? '.' : ''}`;
}

export const HOSTNAME: Component = { name: 'hostname', delimiter: '.', prefix: '', encode: encodeHost };
export const PATHNAME: Component = { name: 'pathname', delimiter: '/', prefix: '/', encode: encodePath };
export const SEARCH: Component = { name: 'search', delimiter: '', prefix: '', encode: encodeSearch };
