import { hostOf } from '../facts/index.js';

/** That a browser has stopped something, or would have (CSP Level 3, 5.5), without what could tell who the visitor was. */
export interface PolicyReport {
  /** The directive that did, `script-src-elem`. */
  readonly directive: string;
  /** Scheme and host of what was asked for, or `inline`, `eval`, `data` and their like. */
  readonly blocked: string;
  /** Scheme and host of the script that did it; empty where the page did. */
  readonly source: string;
  /** The beginning of a code that stands in the page, 40 characters at most; empty for all else. */
  readonly sample: string;
  /** Of the page, in lower case, without a port. */
  readonly host: string;
  /** Path of the page, without its query. */
  readonly path: string;
  /** It was stopped; otherwise it was reported only. */
  readonly isEnforced: boolean;
}

/** A browser sends a handful at a time. */
const MAX_REPORTS = 50;
const MAX_TEXT = 200;
const MAX_PATH = 500;
const SAMPLE = 40;

/**
 * Reads what browsers send: one report in the form of `report-uri` (CSP Level 3, 5.3) or several in that of the Reporting API
 * (Reporting API, 3.3). What is neither is nothing.
 *
 * @param text - of the body, of bounded length
 */
export function readPolicyReports(text: string): readonly PolicyReport[] {
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    return [];
  }
  const sent = Array.isArray(body) ? body.slice(0, MAX_REPORTS) : [body];
  return sent.flatMap((one: unknown) => {
    if (!isRecord(one)) return [];
    if (isRecord(one['csp-report'])) return toReport(one['csp-report'], OLD_NAMES) ?? [];
    return one['type'] === 'csp-violation' && isRecord(one['body'])
      ? (toReport(one['body'], NEW_NAMES) ?? [])
      : [];
  });
}

interface Names {
  readonly page: string;
  readonly directive: readonly string[];
  readonly blocked: string;
  readonly source: string;
  readonly sample: string;
}

const OLD_NAMES: Names = {
  page: 'document-uri',
  directive: ['effective-directive', 'violated-directive'],
  blocked: 'blocked-uri',
  source: 'source-file',
  sample: 'script-sample',
};
const NEW_NAMES: Names = {
  page: 'documentURL',
  directive: ['effectiveDirective'],
  blocked: 'blockedURL',
  source: 'sourceFile',
  sample: 'sample',
};

function toReport(body: Readonly<Record<string, unknown>>, names: Names): PolicyReport | undefined {
  const textOf = (name: string): string => (typeof body[name] === 'string' ? body[name] : '');
  const page = textOf(names.page);
  const directive =
    names.directive
      .map(textOf)
      .find((value) => value !== '')
      ?.split(/\s/, 1)[0] ?? '';
  if (!/^[a-z-]{1,40}$/.test(directive) || !/^https?:/.test(page) || !URL.canParse(page)) return undefined;
  const { hostname, pathname } = new URL(page);
  return {
    host: hostname,
    directive,
    blocked: placeOf(textOf(names.blocked)) || 'inline',
    source: placeOf(textOf(names.source)),
    sample: readable(textOf(names.sample)).slice(0, SAMPLE),
    path: pathname.slice(0, MAX_PATH),
    isEnforced: body['disposition'] !== 'report',
  };
}

/** Of an address its origin, which names nobody; of a keyword itself. */
function placeOf(value: string): string {
  if (/^[a-z][a-z-]{0,20}$/.test(value)) return value;
  const short = value.slice(0, MAX_PATH);
  if (!URL.canParse(short)) return '';
  const { origin, protocol } = new URL(short);
  return (origin === 'null' ? protocol.replace(/:$/, '') : origin).slice(0, MAX_TEXT);
}

/** Without characters that no text has, which a database would refuse. */
function readable(text: string): string {
  return text.replace(/[\p{Cc}\p{Cs}]+/gu, ' ').trim();
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

/** A snippet that may have done what a report tells of. */
export interface Suspect {
  readonly snippet: string;
  readonly name: string;
  /** Hosts that its code and its files load from, without ports. */
  readonly hosts: readonly string[];
  /** Texts of its code that stand in pages. */
  readonly inline: readonly string[];
}

/** Who did it, and how that is known. */
export interface Blame {
  readonly snippet: string;
  readonly name: string;
  readonly by: 'loads' | 'file' | 'code';
}

/** Whose doing it was: what a snippet loads, what a file of its does, or its code itself. Undefined for the page's own. */
export function blameFor(
  { blocked, source, sample }: Pick<PolicyReport, 'blocked' | 'source' | 'sample'>,
  suspects: readonly Suspect[],
): Blame | undefined {
  const by = (how: Blame['by'], fits: (suspect: Suspect) => boolean): Blame | undefined => {
    const found = suspects.find(fits);
    return found && { snippet: found.snippet, name: found.name, by: how };
  };
  const host = hostOf(blocked);
  const from = hostOf(source);
  const begins = sample.replace(/\s+/g, '');
  return (
    (host === undefined ? undefined : by('loads', ({ hosts }) => hosts.includes(host))) ??
    (from === undefined ? undefined : by('file', ({ hosts }) => hosts.includes(from))) ??
    (begins === ''
      ? undefined
      : by('code', ({ inline }) => inline.some((text) => text.replace(/\s+/g, '').startsWith(begins))))
  );
}

/** What has to be written into which directive to let in what a report tells of; undefined where nothing sensible does. */
export function sourceToAllow({
  directive,
  blocked,
}: Pick<PolicyReport, 'directive' | 'blocked'>):
  { readonly directive: string; readonly source: string } | undefined {
  const host = hostOf(blocked);
  const name = directive.replace(/-(?:elem|attr)$/, '');
  if (host !== undefined) return { directive: name, source: new URL(blocked).host };
  switch (blocked) {
    case 'eval':
      return { directive: 'script-src', source: "'unsafe-eval'" };
    case 'wasm-eval':
      return { directive: 'script-src', source: "'wasm-unsafe-eval'" };
    case 'data':
    case 'blob':
      return { directive: name, source: `${blocked}:` };
    case 'inline':
      // A handler or a `style` attribute: the theme's, which nobody lists one by one.
      return directive.endsWith('-attr') ? { directive, source: "'unsafe-inline'" } : undefined;
    default:
      return undefined;
  }
}
