import type { VisitScript } from './script.js';

/** Where something was called from; lines and columns count from 0, as browsers do. */
export interface Frame {
  /** Names a script of the same page load. */
  readonly script: string;
  readonly url: string;
  readonly line: number;
  readonly column: number;
}

/** Calls, the innermost first; what an asynchronous call was asked for by comes after it. */
export type Stack = readonly Frame[];

/** A script that a browser was given to run. */
export interface SeenScript {
  readonly id: string;
  /** Of its file; that of the page for one in the page itself; empty for code made from text. */
  readonly url: string;
  /** Where it begins in its file or page. */
  readonly line: number;
  readonly column: number;
  /** Its text, for one that has no file of its own. */
  readonly source?: string;
  readonly isParsed: boolean;
  /** What put it there, where a script did. */
  readonly stack: Stack;
}

export type RequestKind =
  'document' | 'script' | 'style' | 'image' | 'font' | 'media' | 'fetch' | 'beacon' | 'socket' | 'other';

/** Why a browser did not use what it asked for. */
export type RequestFailure =
  /** The page's content policy forbids it. */
  | 'policy'
  /** Plain http in an https page. */
  | 'mixed-content'
  /** The server does not share it with other sites (CORS). */
  | 'not-shared'
  /** What came is not what its fingerprint says. */
  | 'integrity'
  /** What came is no script or style, so that the browser hides it (opaque response blocking), or refuses its type. */
  | 'wrong-type'
  /** The host has no address. */
  | 'no-host'
  /** Nobody answers there. */
  | 'no-answer'
  /** The certificate is not trusted. */
  | 'certificate'
  /** It had not been answered when the visit ended. */
  | 'unanswered'
  /** The page took it back, or went elsewhere. */
  | 'cancelled'
  /** Our own rules: an address that is not to be visited. */
  | 'forbidden'
  | 'other';

export interface SeenRequest {
  readonly id: string;
  readonly url: string;
  readonly method: string;
  readonly kind: RequestKind;
  /** Of the frame that asked; undefined for the page itself. */
  readonly frame?: string;
  readonly startMs: number;
  /** When the answer began, and when it was there; since the page load began. */
  readonly answeredMs?: number;
  readonly endMs?: number;
  readonly status?: number;
  readonly type?: string;
  /** As they came over the line. */
  readonly bytes: number;
  readonly failure?: RequestFailure;
  /** As the browser says it. */
  readonly error?: string;
  /** What the address apart from the browser answered, where the browser hides it. */
  readonly apart?: { readonly status: number | null; readonly type: string; readonly problem?: string };
  /** Where it was redirected to. */
  readonly redirect?: string;
  readonly initiator: Initiator;
  /** Names in lower case; without what lets anybody in, and without cookies. */
  readonly requestHeaders?: Readonly<Record<string, string>>;
  readonly responseHeaders?: Readonly<Record<string, string>>;
  /** What was sent along, in its first characters. */
  readonly body?: string;
  /** A stand-in answered, and its host was not asked. */
  readonly standIn?: boolean;
}

export interface Initiator {
  readonly by: 'parser' | 'script' | 'other';
  /** The document or style in which it stands. */
  readonly url?: string;
  readonly line?: number;
  readonly column?: number;
  readonly stack: Stack;
}

export interface SeenException {
  readonly message: string;
  readonly url: string;
  readonly script?: string;
  readonly line: number;
  readonly column: number;
  readonly atMs: number;
  readonly stack: Stack;
  /** The script could not be read at all. */
  readonly isSyntax: boolean;
}

export interface ConsoleMessage {
  readonly level: 'error' | 'warning' | 'info';
  readonly text: string;
  readonly url: string;
  readonly atMs: number;
  readonly stack: Stack;
}

/** Something that the page's content policy stopped, or would have. */
export interface SeenViolation {
  readonly directive: string;
  /** An address, or `inline` or `eval`. */
  readonly blocked: string;
  readonly isEnforced: boolean;
  readonly line: number;
  readonly column: number;
  readonly url: string;
  readonly script?: string;
}

export interface Rectangle {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** An element that scripts have made, that lies over the page, or that was asked about. */
export interface SeenElement {
  /** Its start tag, shortened. */
  readonly tag: string;
  /** A selector of CSS that means it. */
  readonly selector: string;
  readonly text: string;
  /** In the window as it was at the start of the page. */
  readonly box: Rectangle;
  readonly position: 'static' | 'fixed' | 'sticky';
  readonly isVisible: boolean;
  /** Why it is not: in words of CSS. */
  readonly hidden?: string;
  /** Selector of the layer that lies on its middle, where that is not its own. */
  readonly coveredBy?: string;
  /** That layer takes most of the window and can be closed: visitors answer it first. */
  readonly isUnderModal?: boolean;
  /** What made it; empty for what came with the page. */
  readonly stack: Stack;
  /** The selectors that were asked about and mean it. */
  readonly probes: readonly string[];
}

/** A script element with a file that a script has made. */
export interface SeenTag {
  readonly url: string;
  readonly stack: Stack;
}

/** Of one page load. */
export const MAX_CONTROLS = 300;

/** Something that a visitor can use: it is seen somewhere on the page, and is not switched off. */
export interface SeenControl {
  readonly kind: 'link' | 'field' | 'button';
  /** As people would call it: its label, its text, or what it is called in the page’s code. */
  readonly name: string;
  readonly box: Rectangle;
}

/** A control of the page that cannot be reached, wherever the page is scrolled to. */
export interface CoveredControl {
  readonly tag: string;
  readonly selector: string;
  readonly text: string;
  readonly box: Rectangle;
  readonly coveredBy: string;
  /** Pixels of it that are covered, of all that it has. */
  readonly covered: number;
  /** What covers it has controls of its own, so that somebody can close it, as a banner or a dialog. */
  readonly canBeClosed: boolean;
}

export interface SeenWrite {
  readonly where: 'cookie' | 'localStorage' | 'sessionStorage' | 'indexedDB';
  readonly key: string;
  readonly atMs: number;
  readonly stack: Stack;
  /** By the header of an answer; its request. */
  readonly request?: string;
}

/** Work that kept the page from answering, longer than 50 ms (Long Tasks). */
export interface LongTask {
  readonly atMs: number;
  readonly durationMs: number;
  /** Files and milliseconds of what ran in it. */
  readonly scripts: readonly { readonly url: string; readonly durationMs: number }[];
}

/** Something moved without anybody's doing (Layout Instability). */
export interface LayoutShift {
  readonly atMs: number;
  readonly score: number;
  readonly moved: readonly string[];
}

/** What became of a step. */
export interface StepOutcome {
  readonly step: number;
  readonly atMs: number;
  readonly isDone: boolean;
  /** What was done, or why not. */
  readonly note?: string;
}

/** What a visitor said to the consent banner, and when; without a moment it was said before the page load. */
export interface ConsentAnswer {
  readonly choice: 'accept' | 'refuse';
  readonly atMs?: number;
}

/** One page load, and all that happened until the next one. */
/** Where an element was shown, in pixels of the whole page. */
export interface NumberedBox {
  /** The value of its attribute. */
  readonly number: number;
  readonly box: Rectangle;
}

export interface LoadEvidence {
  /** As it was asked for, and as it was in the end. */
  readonly url: string;
  readonly finalUrl: string;
  /** Null where nothing answered. */
  readonly status: number | null;
  /** Why there is no page, in words. */
  readonly problem?: string;
  readonly startedAt: number;
  /** The `Cookie` header of the request, without what lets us in. */
  readonly cookies: string;
  /** The page as it came, as text. */
  readonly html: string;
  readonly headers: Readonly<Record<string, string>>;
  /** The page as it stood at the end. */
  readonly dom: string;
  readonly readyMs?: number;
  readonly loadedMs?: number;
  /** Until when it was watched. */
  readonly endMs: number;
  readonly scripts: readonly SeenScript[];
  readonly requests: readonly SeenRequest[];
  readonly exceptions: readonly SeenException[];
  readonly console: readonly ConsoleMessage[];
  readonly violations: readonly SeenViolation[];
  /** Names that the window has and an empty one has not. */
  readonly globals: readonly string[];
  readonly elements: readonly SeenElement[];
  /** Those that stood in the page at the end. */
  readonly tags: readonly SeenTag[];
  readonly covered: readonly CoveredControl[];
  /** In their order in the page, the first {@link MAX_CONTROLS}. */
  readonly controls?: readonly SeenControl[];
  readonly writes: readonly SeenWrite[];
  readonly longTasks: readonly LongTask[];
  readonly shifts: readonly LayoutShift[];
  /** Characters of text that can be read, and the page's size in pixels: what a broken page loses. */
  readonly readable: number;
  readonly size: { readonly width: number; readonly height: number };
  /** Where the elements were that the visit asked for by an attribute of theirs, on the whole page; those that are shown. */
  readonly boxes?: readonly NumberedBox[];
  /** What can be seen of it at once, in its own pixels: phones show pages that were made for desktops smaller. */
  readonly window: { readonly width: number; readonly height: number };
  /** The page did not answer any more. */
  readonly isHung: boolean;
  /** What the steps had done by its end. */
  readonly seconds: number;
  readonly scrolled: number;
  readonly hasLeft: boolean;
  readonly visitor: 'first' | 'returning';
  /** So many days after the visitor's first page load, by the browser's clock. @defaultValue 0 */
  readonly day?: number;
  /** What the visitor has said to the consent banner by its end; left out where nothing. */
  readonly answer?: ConsentAnswer;
  /** Views of a single-page application that came after it, by path. */
  readonly views: readonly string[];
  /** Where the screenshot is among those of the visit. */
  readonly screenshot?: number;
}

export type VisitFailure = 'crashed' | 'timeout' | 'unreachable';

/** What a browser saw in one visit. */
export interface VisitEvidence {
  readonly format: 'pragmatica-visit/1';
  readonly script: VisitScript;
  readonly browser: string;
  readonly startedAt: number;
  readonly durationMs: number;
  /** Null where the visit came to its end. */
  readonly failure: VisitFailure | null;
  readonly steps: readonly StepOutcome[];
  readonly loads: readonly LoadEvidence[];
}
