import type {
  ConsoleMessage,
  Frame,
  Initiator,
  RequestFailure,
  SeenException,
  SeenRequest,
  SeenScript,
  SeenViolation,
  SeenWrite,
  Stack,
} from '@pragmatica/core';
import type { CDPSession } from 'playwright-core';
import { REFUSED_HEADER } from './guard-proxy.js';
import type { Protocol } from './protocol.js';
import { requestKind } from './request-kind.js';

/** What is kept of one page load; a page that does without end fills no memory. */
const MAX_REQUESTS = 1_500;
const MAX_SCRIPTS = 1_000;
const MAX_MESSAGES = 200;
const MAX_WRITES = 300;
const MAX_SOURCE = 300_000;
const MAX_FRAMES = 30;
const MAX_TEXT = 500;
/** Of what is sent along. */
const MAX_BODY = 2_000;

/** What lets somebody in somewhere. */
const PRIVATE_HEADERS = ['authorization', 'proxy-authorization', 'cookie', 'set-cookie'];

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

/** What is seen of one page load, as it happens. */
export class LoadRecord {
  readonly requests = new Map<string, Mutable<SeenRequest>>();
  readonly scripts = new Map<string, Mutable<SeenScript>>();
  readonly exceptions: SeenException[] = [];
  readonly console: ConsoleMessage[] = [];
  readonly violations: SeenViolation[] = [];
  readonly writes: SeenWrite[] = [];
  readonly views: string[] = [];
  /** What is still being asked for: sources, bodies. */
  readonly pending: Promise<unknown>[] = [];
  finalUrl: string;
  status: number | null = null;
  headers: Record<string, string> = {};
  cookies = '';
  html = '';
  readyMs: number | undefined;
  loadedMs: number | undefined;
  lastActivity = performance.now();
  readonly startedAt: number;
  readonly #zero: number;

  constructor(
    readonly url: string,
    /** Of the page itself. */
    readonly documentRequest: string,
    zero: number,
    startedAt: number,
  ) {
    this.finalUrl = url;
    this.#zero = zero;
    this.startedAt = startedAt;
  }

  /** Milliseconds since the page load began, of a moment as the protocol gives it (seconds). */
  since(timestamp: number): number {
    return Math.max(0, Math.round((timestamp - this.#zero) * 1_000));
  }

  /** Requests that keep a page from being quiet: not answered, and not asked for longer ago than so many milliseconds. */
  openFor(ms: number): number {
    const now = Date.now() - this.startedAt;
    let count = 0;
    for (const { endMs, kind, startMs } of this.requests.values())
      if (endMs === undefined && kind !== 'socket' && now - startMs < ms) count++;
    return count;
  }
}

/** Has a browser tell of a page all that a recorder writes down. */
export async function listenIn(session: CDPSession): Promise<void> {
  await Promise.all([
    session.send('Network.enable', { maxPostDataSize: MAX_BODY }),
    session.send('Runtime.enable'),
    session.send('Debugger.enable', { maxScriptsCacheSize: 20_000_000 }),
    session.send('Debugger.setAsyncCallStackDepth', { maxDepth: 8 }),
    session.send('Audits.enable'),
    session.send('Log.enable'),
    session.send('DOM.enable'),
    session.send('DOM.setNodeStackTracesEnabled', { enable: true }),
    session.send('Page.enable'),
    session.send('Page.setLifecycleEventsEnabled', { enabled: true }),
  ]);
}

/** Listens to a page by the DevTools protocol and keeps what happens, page load by page load. */
export class Recorder {
  /** Bytes of answers that the browser does not know, by request. */
  readonly sizes = new Map<string, number>();
  /** Requests that a stand-in has answered. */
  readonly #standIns = new Set<string>();
  readonly #session: CDPSession;
  /** Marks what the page's watch says, and where it stands in the window. */
  readonly token: string;
  readonly loads: LoadRecord[] = [];
  readonly mainFrame: string;
  /** Headers that are not kept. */
  readonly #private: ReadonlySet<string>;
  /** Names of the cookies that let us in. */
  readonly #admission: ReadonlySet<string>;

  /** @param access - names and values that let us into the host: they are nobody else's business */
  constructor(
    session: CDPSession,
    token: string,
    mainFrame: string,
    access: Readonly<Record<string, string>> = {},
  ) {
    this.#private = new Set([...PRIVATE_HEADERS, ...Object.keys(access).map((name) => name.toLowerCase())]);
    this.#admission = new Set((access['cookie'] ?? '').split(/;\s*/).map((pair) => pair.split('=', 1)[0]!));
    this.#session = session;
    this.token = token;
    this.mainFrame = mainFrame;
  }

  /** Says that a stand-in has answered a request. */
  markStandIn(id: string): void {
    this.#standIns.add(id);
    const request = this.current?.requests.get(id);
    if (request) request.standIn = true;
  }

  get current(): LoadRecord | undefined {
    return this.loads.at(-1);
  }

  start(): void {
    const s = this.#session;
    s.on('Network.requestWillBeSent', (event) => this.#onRequest(event));
    s.on('Network.requestWillBeSentExtraInfo', (event) => this.#onRequestHeaders(event));
    s.on('Network.responseReceived', (event) => this.#onResponse(event));
    s.on('Network.responseReceivedExtraInfo', (event) => this.#onResponseHeaders(event));
    s.on('Network.loadingFinished', (event) => this.#onFinished(event));
    s.on('Network.loadingFailed', (event) => this.#onFailed(event));
    s.on('Debugger.scriptParsed', (event) => this.#onScript(event, true));
    s.on('Debugger.scriptFailedToParse', (event) => this.#onScript(event, false));
    s.on('Runtime.exceptionThrown', (event) => this.#onException(event));
    s.on('Runtime.consoleAPICalled', (event) => this.#onConsole(event));
    s.on('Log.entryAdded', ({ entry }) => this.#onLog(entry));
    s.on('Audits.issueAdded', ({ issue }) => this.#onIssue(issue));
    s.on('Page.navigatedWithinDocument', ({ frameId, url }) => {
      if (frameId === this.mainFrame) this.current?.views.push(url);
    });
    s.on('Page.lifecycleEvent', ({ frameId, loaderId, name, timestamp }) => {
      const load = this.current;
      if (!load || frameId !== this.mainFrame || loaderId !== load.documentRequest) return;
      if (name === 'DOMContentLoaded') load.readyMs = load.since(timestamp);
      if (name === 'load') load.loadedMs = load.since(timestamp);
    });
  }

  #stack(trace: Protocol.Runtime.StackTrace | undefined): Stack {
    const frames: Frame[] = [];
    for (let one = trace; one && frames.length < MAX_FRAMES; one = one.parent)
      for (const { scriptId, url, lineNumber, columnNumber } of one.callFrames)
        // Our own scripts are in no page.
        if (this.current?.scripts.has(scriptId) === true)
          frames.push({ script: scriptId, url, line: lineNumber, column: columnNumber });
    return frames.slice(0, MAX_FRAMES);
  }

  #kept(headers: Readonly<Record<string, string>>): Record<string, string> {
    return Object.fromEntries(Object.entries(headers).filter(([name]) => !this.#private.has(name)));
  }

  /** Stacks of nodes, as they are asked for. */
  stackOf(trace: Protocol.Runtime.StackTrace | undefined): Stack {
    return this.#stack(trace);
  }

  #onRequest(event: Protocol.Network.RequestWillBeSentEvent): void {
    const { requestId, loaderId, request, frameId, type, timestamp, wallTime } = event;
    const isPage = type === 'Document' && frameId === this.mainFrame && requestId === loaderId;
    const known = this.current?.requests.get(requestId);
    if (isPage && !event.redirectResponse)
      this.loads.push(new LoadRecord(request.url, requestId, timestamp, Math.round(wallTime * 1_000)));
    const load = this.current;
    if (!load) return;
    load.lastActivity = performance.now();
    if (isPage) load.finalUrl = request.url;
    if (event.redirectResponse && known) {
      const { status, mimeType, headers } = event.redirectResponse;
      Object.assign(known, {
        id: `${requestId}:${load.requests.size}`,
        status,
        type: mimeType,
        redirect: request.url,
        endMs: load.since(timestamp),
        responseHeaders: this.#kept(lower(headers)),
      });
      load.requests.delete(requestId);
      load.requests.set(known.id, known);
    }
    if (/^(?:data|blob|about):/.test(request.url) || load.requests.size >= MAX_REQUESTS) return;
    const body = request.hasPostData === true ? request.postData : undefined;
    load.requests.set(requestId, {
      id: requestId,
      url: request.url,
      method: request.method,
      kind: requestKind(type),
      ...(frameId === undefined || frameId === this.mainFrame ? {} : { frame: frameId }),
      startMs: load.since(timestamp),
      bytes: 0,
      initiator: this.#initiator(event.initiator),
      requestHeaders: this.#kept(lower(request.headers)),
      ...(this.#standIns.has(requestId) ? { standIn: true } : {}),
      ...(body === undefined ? {} : { body: body.slice(0, MAX_BODY) }),
    });
  }

  #initiator({ type, url, lineNumber, columnNumber, stack }: Protocol.Network.Initiator): Initiator {
    return {
      by: type === 'parser' ? 'parser' : type === 'script' ? 'script' : 'other',
      ...(url === undefined ? {} : { url }),
      ...(lineNumber === undefined ? {} : { line: lineNumber }),
      ...(columnNumber === undefined ? {} : { column: columnNumber }),
      stack: this.#stack(stack),
    };
  }

  #onRequestHeaders({ requestId, headers }: Protocol.Network.RequestWillBeSentExtraInfoEvent): void {
    const load = this.current;
    const request = load?.requests.get(requestId);
    if (!load || !request) return;
    const all = lower(headers);
    request.requestHeaders = { ...request.requestHeaders, ...this.#kept(all) };
    if (requestId === load.documentRequest)
      load.cookies = (all['cookie'] ?? '')
        .split(/;\s*/)
        .filter((pair) => !this.#admission.has(pair.split('=', 1)[0]!))
        .join('; ');
  }

  #onResponse({ requestId, response, timestamp }: Protocol.Network.ResponseReceivedEvent): void {
    const load = this.current;
    const request = load?.requests.get(requestId);
    if (!load || !request) return;
    load.lastActivity = performance.now();
    Object.assign(request, {
      status: response.status,
      type: response.mimeType,
      answeredMs: load.since(timestamp),
      responseHeaders: { ...this.#kept(lower(response.headers)), ...request.responseHeaders },
    });
    if (REFUSED_HEADER in (request.responseHeaders ?? {})) request.failure = 'forbidden';
    if (requestId !== load.documentRequest) return;
    load.status = response.status;
    load.headers = this.#kept(lower(response.headers));
  }

  #onResponseHeaders({
    requestId,
    headers,
    statusCode,
  }: Protocol.Network.ResponseReceivedExtraInfoEvent): void {
    const load = this.current;
    const request = load?.requests.get(requestId);
    if (!load || !request) return;
    const all = lower(headers);
    request.responseHeaders = { ...request.responseHeaders, ...this.#kept(all) };
    // Where the browser hides the answer this is all that is told of it.
    request.status ??= statusCode;
    for (const line of (all['set-cookie'] ?? '').split('\n').filter(Boolean)) {
      const [pair = ''] = line.split(';');
      const at = pair.indexOf('=');
      if (/;\s*max-age\s*=\s*(?:0|-)/i.test(line) || load.writes.length >= MAX_WRITES) continue;
      load.writes.push({
        where: 'cookie',
        key: pair.slice(0, Math.max(0, at)).trim(),
        atMs: request.startMs,
        stack: [],
        request: requestId,
      });
    }
  }

  #onFinished({ requestId, timestamp, encodedDataLength }: Protocol.Network.LoadingFinishedEvent): void {
    const load = this.current;
    const request = load?.requests.get(requestId);
    if (!load || !request) return;
    load.lastActivity = performance.now();
    request.endMs = load.since(timestamp);
    request.bytes = Math.round(this.sizes.get(requestId) ?? encodedDataLength);
    if (requestId === load.documentRequest)
      load.pending.push(
        this.#session.send('Network.getResponseBody', { requestId }).then(
          ({ body, base64Encoded }) => {
            load.html = base64Encoded ? Buffer.from(body, 'base64').toString() : body;
          },
          () => undefined,
        ),
      );
  }

  #onFailed({
    requestId,
    timestamp,
    errorText,
    canceled,
    blockedReason,
    corsErrorStatus,
  }: Protocol.Network.LoadingFailedEvent): void {
    const load = this.current;
    const request = load?.requests.get(requestId);
    if (!load || !request) return;
    load.lastActivity = performance.now();
    request.endMs = load.since(timestamp);
    // What has no content is reported as taken back by some browsers, though it was answered.
    // So is what is of no use to it, where the status says why.
    if (request.status !== undefined && canceled === true) return;
    request.failure = failureOf(errorText, canceled === true, blockedReason, corsErrorStatus !== undefined);
    request.error = errorText || blockedReason || '';
  }

  #onScript(
    event: Protocol.Debugger.ScriptParsedEvent | Protocol.Debugger.ScriptFailedToParseEvent,
    isParsed: boolean,
  ): void {
    const load = this.current;
    const context = event.executionContextAuxData as { readonly isDefault?: boolean } | undefined;
    if (!load || context?.isDefault === false || load.scripts.size >= MAX_SCRIPTS) return;
    // Those without an address that no script has made are ours.
    if (event.url === '' && event.stackTrace === undefined) return;
    const { scriptId, url, startLine, startColumn, length = 0 } = event;
    const script: Mutable<SeenScript> = {
      id: scriptId,
      url,
      line: startLine,
      column: startColumn,
      isParsed,
      stack: this.#stack(event.stackTrace),
    };
    load.scripts.set(scriptId, script);
    const request = [...load.requests.values()].find((one) => one.url === url && one.kind === 'script');
    if (request || length === 0 || length > MAX_SOURCE) return;
    load.pending.push(
      this.#session.send('Debugger.getScriptSource', { scriptId }).then(
        ({ scriptSource }) => {
          script.source = scriptSource;
        },
        () => undefined,
      ),
    );
  }

  #onException({ timestamp, exceptionDetails: details }: Protocol.Runtime.ExceptionThrownEvent): void {
    const load = this.current;
    if (!load || load.exceptions.length >= MAX_MESSAGES) return;
    const { exception, text, url = '', scriptId, lineNumber, columnNumber, stackTrace } = details;
    const description = exception?.description ?? (exception && String(exception.value)) ?? text;
    const stack = this.#stack(stackTrace);
    load.exceptions.push({
      message: (description.split('\n', 1)[0] ?? text).slice(0, MAX_TEXT),
      url: url || (stack[0]?.url ?? ''),
      ...(scriptId === undefined ? {} : { script: scriptId }),
      line: lineNumber,
      column: columnNumber,
      atMs: Math.max(0, Math.round(timestamp - load.startedAt)),
      stack,
      isSyntax: exception?.className === 'SyntaxError' && (stackTrace?.callFrames.length ?? 0) === 0,
    });
  }

  #onConsole({ type, args, timestamp, stackTrace }: Protocol.Runtime.ConsoleAPICalledEvent): void {
    const load = this.current;
    if (!load) return;
    const atMs = Math.max(0, Math.round(timestamp - load.startedAt));
    const stack = this.#stack(stackTrace);
    const [first, where, key] = args.map((arg) => arg.value as unknown);
    if (first === this.token) {
      if (load.writes.length < MAX_WRITES)
        load.writes.push({
          where: where as SeenWrite['where'],
          key: String(key),
          atMs,
          stack,
        });
      return;
    }
    if (load.console.length >= MAX_MESSAGES) return;
    const text = args
      .map(({ value: plain, description, type: kind }) =>
        kind === 'string' ? String(plain) : (description ?? String(plain)),
      )
      .join(' ');
    load.console.push({
      level: type === 'error' || type === 'assert' ? 'error' : type === 'warning' ? 'warning' : 'info',
      text: text.slice(0, MAX_TEXT),
      url: stack[0]?.url ?? '',
      atMs,
      stack,
    });
  }

  /** What the browser itself says of a page. */
  #onLog({ source, level, text, url = '', timestamp }: Protocol.Log.LogEntry): void {
    const load = this.current;
    if (!load) return;
    if (/\bintegrity\b/i.test(text))
      for (const request of load.requests.values())
        if (text.includes(`'${request.url}'`)) request.failure ??= 'integrity';
    if ((source !== 'intervention' && source !== 'security') || load.console.length >= MAX_MESSAGES) return;
    load.console.push({
      level: level === 'error' ? 'error' : level === 'warning' ? 'warning' : 'info',
      text: text.slice(0, MAX_TEXT),
      url,
      atMs: Math.max(0, Math.round(timestamp - load.startedAt)),
      stack: [],
    });
  }

  #onIssue({ details }: Protocol.Audits.InspectorIssue): void {
    const load = this.current;
    const policy = details.contentSecurityPolicyIssueDetails;
    if (load && policy && load.violations.length < MAX_MESSAGES) {
      const at = policy.sourceCodeLocation;
      const kind = policy.contentSecurityPolicyViolationType;
      load.violations.push({
        directive: policy.violatedDirective,
        blocked:
          policy.blockedURL ??
          (kind === 'kEvalViolation' ? 'eval' : kind === 'kInlineViolation' ? 'inline' : kind),
        isEnforced: !policy.isReportOnly,
        url: at?.url ?? '',
        line: at?.lineNumber ?? -1,
        column: at?.columnNumber ?? -1,
        ...(at?.scriptId === undefined ? {} : { script: at.scriptId }),
      });
    }
    const blocked = details.blockedByResponseIssueDetails?.request ?? undefined;
    const id = blocked?.requestId;
    const request = id === undefined ? undefined : load?.requests.get(id);
    if (request) request.failure ??= 'wrong-type';
  }
}

function failureOf(
  error: string,
  isCancelled: boolean,
  blocked: string | undefined,
  isCors: boolean,
): RequestFailure {
  if (blocked === 'csp') return 'policy';
  if (blocked === 'mixed-content') return 'mixed-content';
  if (blocked === 'subresource-filter' || blocked === 'inspector') return 'forbidden';
  if (blocked === 'integrity') return 'integrity';
  if (isCors) return 'not-shared';
  if (blocked?.startsWith('corp-') === true) return 'not-shared';
  if (/ERR_BLOCKED_BY_ORB|ERR_BLOCKED_BY_RESPONSE/.test(error) || blocked === 'content-type')
    return 'wrong-type';
  if (/ERR_NAME_NOT_RESOLVED|ERR_NAME_RESOLUTION/.test(error)) return 'no-host';
  if (/ERR_CERT|ERR_SSL/.test(error)) return 'certificate';
  if (/ERR_BLOCKED_BY_CLIENT|ERR_ACCESS_DENIED|ERR_TUNNEL/.test(error)) return 'forbidden';
  if (/ERR_(?:CONNECTION|EMPTY|SOCKET|TIMED_OUT|ADDRESS|INTERNET|NETWORK|PROXY|HTTP2|QUIC)/.test(error))
    return 'no-answer';
  if (isCancelled || /ERR_ABORTED/.test(error)) return 'cancelled';
  return 'other';
}

function lower(headers: Protocol.Network.Headers): Record<string, string> {
  return Object.fromEntries(Object.entries(headers).map(([name, value]) => [name.toLowerCase(), value]));
}
