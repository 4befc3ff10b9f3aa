import { isCarrier, isCarrierFile } from '../deliver/index.js';
import { normalAddress } from '../facts/index.js';
import { nonceIn, noncePieces, withNonce } from '../policy/index.js';
import type { LoadEvidence, SeenElement, SeenRequest, SeenScript, SeenWrite, Stack } from '../visit/index.js';
import type { ExpectedPart } from './expectation.js';

/** Whose doing something is. */
export type Owner =
  | {
      readonly kind: 'snippet';
      readonly snippet: string;
      readonly part: string;
      /** Files between the part's own code and the thing, the first one first: what a container brought, it brought. */
      readonly via: readonly string[];
    }
  /** Code of the page itself. */
  | { readonly kind: 'page'; readonly via: readonly string[] }
  | { readonly kind: 'unknown' };

const UNKNOWN: Owner = { kind: 'unknown' };
const PAGE: Owner = { kind: 'page', via: [] };
/** Chains of files that load files end somewhere. */
const MAX_DEPTH = 20;
/** So much of a script tells whether it is ours. */
const LOOKED_AT = 400;
/** Shorter pieces of script stand in anybody's code. */
const MIN_SOURCE = 8;

export interface AttributionOptions {
  /** Key of the site: its scripts that put parts into pages are told by it. */
  readonly site?: string;
  /** Whether a snippet calls another one's code: what both have done, the caller has done. */
  readonly dependsOn?: (snippet: string, other: string) => boolean;
}

/**
 * Whose doing the things of a page load are: by the place in the page where an inline script or a tag stands, by what asked for a
 * file, by the calls that led to a thing. Where nothing tells, it is unknown; nothing is guessed by names.
 */
export class Attribution {
  readonly #load: LoadEvidence;
  readonly #site: string;
  readonly #parts: readonly ExpectedPart[];
  readonly #dependsOn: (snippet: string, other: string) => boolean;
  readonly #requests = new Map<string, SeenRequest>();
  readonly #byUrl = new Map<string, SeenRequest>();
  readonly #scripts = new Map<string, SeenScript>();
  readonly #frames = new Map<string, SeenRequest>();
  readonly #owners = new Map<string, Owner>();
  readonly #carriers = new Map<string, boolean>();
  #lines: readonly number[] | undefined;
  #ranges:
    readonly { readonly start: number; readonly end: number; readonly part: ExpectedPart }[] | undefined;

  /**
   * @param parts - those that may be in the page, as they go into pages
   */
  constructor(
    load: LoadEvidence,
    parts: readonly ExpectedPart[],
    { site = '', dependsOn = () => false }: AttributionOptions = {},
  ) {
    this.#site = site;
    this.#load = load;
    this.#parts = parts;
    this.#dependsOn = dependsOn;
    for (const request of load.requests) {
      this.#requests.set(request.id, request);
      if (!this.#byUrl.has(request.url)) this.#byUrl.set(request.url, request);
      if (request.kind === 'document' && request.frame !== undefined)
        this.#frames.set(request.frame, request);
    }
    for (const script of load.scripts) this.#scripts.set(script.id, script);
  }

  ofRequest(request: SeenRequest, depth = 0): Owner {
    const key = `request ${request.id}`;
    const known = this.#owners.get(key);
    if (known) return known;
    // A circle of files knows nothing of itself.
    this.#owners.set(key, UNKNOWN);
    const owner = depth > MAX_DEPTH ? UNKNOWN : this.#ofRequest(request, depth);
    this.#owners.set(key, owner);
    return owner;
  }

  #ofRequest(request: SeenRequest, depth: number): Owner {
    const { initiator, frame, kind } = request;
    if (kind === 'document' && frame === undefined) return PAGE;
    if (isCarrierFile(request.url, this.#site)) return PAGE;
    // What a redirect leads to was asked for by whoever asked for what redirects.
    const before = this.#load.requests.find(
      ({ redirect, startMs }) => redirect === request.url && startMs <= request.startMs,
    );
    if (before && before.id.startsWith(request.id)) return this.ofRequest(before, depth + 1);
    // What our own script puts in is the part's in whose code it stands.
    const [innermost] = initiator.stack;
    if (innermost && this.isCarrier(innermost.script)) return this.#byAddress(request.url) ?? UNKNOWN;
    const byScript = this.ofStack(initiator.stack, depth + 1);
    if (byScript.kind !== 'unknown') return byScript;
    const inFrame = frame === undefined ? undefined : this.#frames.get(frame);
    if (inFrame && inFrame !== request) return through(this.ofRequest(inFrame, depth + 1), inFrame.url);
    const { url, line, column } = initiator;
    if (url !== undefined && url !== this.#load.finalUrl) {
      const file = this.#byUrl.get(url);
      if (file && file !== request) return through(this.ofRequest(file, depth + 1), url);
    }
    if (url !== undefined && line !== undefined && column !== undefined) return this.ofPlace(line, column);
    return this.#byAddress(request.url) ?? UNKNOWN;
  }

  ofScript(id: string, depth = 0): Owner {
    const script = this.#scripts.get(id);
    if (!script || this.isCarrier(id)) return UNKNOWN;
    const key = `script ${id}`;
    const known = this.#owners.get(key);
    if (known) return known;
    this.#owners.set(key, UNKNOWN);
    const owner = depth > MAX_DEPTH ? UNKNOWN : this.#ofScript(script, depth);
    this.#owners.set(key, owner);
    return owner;
  }

  /** Whether a script is one of ours that puts parts into the page: by itself it does nothing. */
  isCarrier(id: string): boolean {
    const known = this.#carriers.get(id);
    if (known !== undefined) return known;
    const script = this.#scripts.get(id);
    const isOurs =
      script !== undefined && isCarrier({ url: script.url, text: this.#textOf(script) }, this.#site);
    this.#carriers.set(id, isOurs);
    return isOurs;
  }

  /** Of one in the page itself also where the browser did not keep it. */
  #textOf({ url, source, line, column }: SeenScript): string {
    if (source !== undefined) return source;
    const start = url === this.#load.finalUrl ? this.#lineStarts()[line] : undefined;
    return start === undefined ? '' : this.#load.html.slice(start + column, start + column + LOOKED_AT);
  }

  #ofScript(script: SeenScript, depth: number): Owner {
    const file = this.#byUrl.get(script.url);
    if (file?.kind === 'script') {
      const own = this.#requestOf(script);
      return through(own ? this.ofRequest(own, depth + 1) : this.#ofAnotherRun(script, depth), script.url);
    }
    if (script.url === this.#load.finalUrl && script.stack.length === 0) {
      const place = this.ofPlace(script.line, script.column);
      if (place.kind === 'snippet') return place;
    }
    const bySource = this.#bySource(script.source);
    if (bySource) return bySource;
    const made = this.ofStack(script.stack, depth + 1);
    if (made.kind !== 'unknown') return made;
    return script.url === this.#load.finalUrl ? PAGE : UNKNOWN;
  }

  /**
   * The innermost call whose code is known; where that code was only called by another snippet's, which builds on it, the
   * caller has done it.
   */
  ofStack(stack: Stack, depth = 0): Owner {
    let found: Owner = UNKNOWN;
    for (const { script } of stack) {
      const owner = this.ofScript(script, depth + 1);
      if (owner.kind === 'unknown') continue;
      if (found.kind === 'unknown') found = owner;
      else if (found.kind === 'page') {
        if (owner.kind === 'snippet') found = owner;
      } else if (
        owner.kind === 'snippet' &&
        owner.snippet !== found.snippet &&
        this.#dependsOn(owner.snippet, found.snippet)
      )
        found = owner;
    }
    return found;
  }

  /** What an answer stores, whoever asked for it has stored. */
  ofWrite({ request, stack }: SeenWrite): Owner {
    const asked = request === undefined ? undefined : this.#requests.get(request);
    return asked ? this.ofRequest(asked) : this.ofStack(stack);
  }

  /** @param probed - parts by the selectors that were asked about for them */
  ofElement(
    element: Pick<SeenElement, 'stack' | 'probes'>,
    probed: ReadonlyMap<string, string> = new Map(),
  ): Owner {
    const made = this.ofStack(element.stack);
    if (made.kind === 'snippet') return made;
    for (const probe of element.probes) {
      const part = this.#parts.find(({ key }) => key === probed.get(probe));
      if (part) return { kind: 'snippet', snippet: part.snippet, part: part.key, via: [] };
    }
    return element.stack.length === 0 ? PAGE : made;
  }

  /** Whose code stands at a place of the page as it came; lines and columns count from 0. */
  ofPlace(line: number, column: number): Owner {
    const start = this.#lineStarts()[line];
    if (start === undefined) return UNKNOWN;
    // Browsers give the end of a start tag, which may be the end of the part.
    const offset = start + Math.max(0, column - 1);
    const range = this.#partRanges().find((one) => one.start <= offset && offset < one.end);
    if (range) return { kind: 'snippet', snippet: range.part.snippet, part: range.part.key, via: [] };
    return PAGE;
  }

  #lineStarts(): readonly number[] {
    if (this.#lines) return this.#lines;
    const starts = [0];
    for (const { index, 0: end } of this.#load.html.matchAll(/\r\n|[\n\r]/g)) starts.push(index + end.length);
    return (this.#lines = starts);
  }

  #partRanges() {
    const { html, headers } = this.#load;
    const nonce = nonceIn(headers['content-security-policy'] ?? '');
    return (this.#ranges ??= this.#parts.flatMap((part) => {
      for (const code of [part.code, part.own]) {
        if (code === '') continue;
        let written = code;
        let at = html.indexOf(code);
        if (at < 0 && nonce !== undefined) at = html.indexOf((written = withNonce(noncePieces(code), nonce)));
        if (at >= 0) return [{ start: at, end: at + written.length, part }];
      }
      return [];
    }));
  }

  /**
   * What a browser has, or waits for already, it does not ask for again: who ran it once more tell the calls around what it did,
   * or the element that stands for no request.
   */
  #ofAnotherRun(script: SeenScript, depth: number): Owner {
    const callers = this.#callersOf(script.id);
    const called = callers ? this.ofStack(callers, depth + 1) : UNKNOWN;
    if (called.kind !== 'unknown') return called;
    const asked = this.#load.requests
      .filter(({ url, kind }) => url === script.url && kind === 'script')
      .map((request) => ownerKey(this.ofRequest(request, depth + 1)));
    const makers = this.#load.tags
      .filter(({ url }) => url === script.url)
      .map(({ stack }) => this.ofStack(stack, depth + 1));
    // Each request stands for one element.
    for (const maker of makers) {
      const at = asked.indexOf(ownerKey(maker));
      if (at >= 0) asked.splice(at, 1);
      else if (maker.kind !== 'unknown') return maker;
    }
    // The page's own element waited for what a script had asked for before.
    const written = this.#byAddress(script.url);
    return written && !asked.includes(ownerKey(written)) ? written : UNKNOWN;
  }

  /** The request for one run of a file: those of one address are matched in order. */
  #requestOf({ id, url }: SeenScript): SeenRequest | undefined {
    const run = this.#load.scripts.filter((one) => one.url === url).findIndex((one) => one.id === id);
    return this.#load.requests.filter((one) => one.url === url && one.kind === 'script')[run];
  }

  /** The calls around those of a script, wherever one of them was seen. */
  #callersOf(id: string): Stack | undefined {
    const { requests, writes, elements, exceptions, console } = this.#load;
    const stacks = [
      ...requests.map(({ initiator }) => initiator.stack),
      ...[writes, elements, exceptions, console].flatMap((all) => all.map(({ stack }) => stack)),
    ];
    for (const stack of stacks) {
      const at = stack.findLastIndex(({ script }) => script === id);
      if (at >= 0 && at + 1 < stack.length) return stack.slice(at + 1);
    }
    return undefined;
  }

  /** A script that is written in one part only is that part's, however it came into the page. */
  #bySource(source: string | undefined): Owner | undefined {
    const text = source?.trim() ?? '';
    if (text.length < MIN_SOURCE) return undefined;
    const holding = this.#parts.filter(({ own }) => own.includes(text));
    const snippets = new Set(holding.map(({ snippet }) => snippet));
    const [first] = holding;
    return first && snippets.size === 1
      ? { kind: 'snippet', snippet: first.snippet, part: first.key, via: [] }
      : undefined;
  }

  /** Of what the browser does not say who asked: the one part in whose code the address is written. */
  #byAddress(url: string): Owner | undefined {
    const plain = normalAddress(url);
    const [path = ''] = plain.split('?', 1);
    const holding = this.#parts.filter(
      ({ own }) => own.includes(url) || (path.length > 8 && own.includes(path)),
    );
    const [first] = holding;
    return first && new Set(holding.map(({ snippet }) => snippet)).size === 1
      ? { kind: 'snippet', snippet: first.snippet, part: first.key, via: [] }
      : undefined;
  }
}

/** Equal for equal owners. */
function ownerKey(owner: Owner): string {
  if (owner.kind === 'unknown') return '';
  return `${owner.kind === 'page' ? 'page' : owner.part} ${owner.via.join(' ')}`;
}

function through(owner: Owner, file: string): Owner {
  if (owner.kind === 'unknown' || owner.via.includes(file)) return owner;
  return { ...owner, via: [...owner.via, file] };
}

/** Whose doing something was, as it is kept: a snippet's key, null for the page itself, undefined where nobody knows. */
export function snippetOf(owner: Owner): string | null | undefined {
  if (owner.kind === 'unknown') return undefined;
  return owner.kind === 'page' ? null : owner.snippet;
}

/** Whether something is a snippet's. */
export function isOf(owner: Owner, snippet: string): boolean {
  return owner.kind === 'snippet' && owner.snippet === snippet;
}
