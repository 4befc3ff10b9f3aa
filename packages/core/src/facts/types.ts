import type { PasteMistake } from './paste/rule.js';
import type { PieceMention } from './piece-mentions.js';

/** Where in the pasted text something stands: offsets in UTF-16 code units, the end not included. */
export interface Range {
  readonly start: number;
  readonly end: number;
}

/** How sure a fact is: read from the code itself, followed through constants that may change, or by its look. */
export type Confidence = 'certain' | 'likely' | 'guess';

interface Fact {
  readonly range: Range;
  readonly confidence: Confidence;
}

/** When something happens, seen from the browser that reads the page. */
export type ExecutionPhase =
  /** while the page is read, at the code's own place */
  | 'parse'
  /** after the page is read, in document order: deferred scripts and modules */
  | 'deferred'
  /** as soon as it has arrived, before or after the page is read */
  | 'async'
  /** in an event, a timer, a promise or a function that others call */
  | 'later';

export type ResourceKind = 'script' | 'style' | 'image' | 'frame' | 'font' | 'data' | 'hint';

export type LoadMode = 'blocking' | 'async' | 'defer' | 'module' | 'none';

/** Something that the code makes the browser fetch. */
export interface Load extends Fact {
  /** As written, or as the script puts it together; parts that cannot be known stand as `…`. */
  readonly address: string;
  readonly kind: ResourceKind;
  /** Written as a tag, made by a script, or written into the page with `document.write`. */
  readonly by: 'tag' | 'script' | 'write';
  /** How a script is fetched; `none` for other resources. */
  readonly mode: LoadMode;
  readonly when: ExecutionPhase;
  /** Fetched only by browsers without scripts. */
  readonly noScript: boolean;
  /** How its tag has it fetched, where that is not what the browser does by itself. */
  readonly fetchedAs?: 'cors' | 'credentialless';
}

/** A global name that the code makes. */
export interface Definition extends Fact {
  readonly name: string;
  readonly when: ExecutionPhase;
  readonly what: 'function' | 'object' | 'array' | 'value';
  /** A stand-in that collects calls until the real library takes over, or one that keeps what is already there. */
  readonly isStub: boolean;
  /** Address of the file that makes it, where it is not the code itself. */
  readonly from?: string;
}

/** That a global list, or settings, begin anew, whatever others have put there. */
export interface Reset extends Fact {
  readonly name: string;
  readonly when: ExecutionPhase;
}

/** A global name that the code relies on and does not make itself before. */
export interface Use extends Fact {
  readonly name: string;
  readonly when: ExecutionPhase;
  /** The code looks first whether it is there. */
  readonly isGuarded: boolean;
}

/** An element of the page that a script looks for. */
export interface NeededElement extends Fact {
  /** A selector, as CSS writes it. */
  readonly selector: string;
  readonly id: string | undefined;
  readonly when: ExecutionPhase;
  /** The code goes on without it. */
  readonly isGuarded: boolean;
  /** Where it stands in the same code, if it does. */
  readonly own: 'before' | 'after' | undefined;
}

/** An element with an id that the code brings. */
export interface MadeElement extends Fact {
  readonly id: string;
  readonly by: 'tag' | 'script';
}

/** An empty element that a script is to fill. */
export interface Slot extends Fact {
  /** What scripts may find it by: its id, classes, data attributes, or its tag where that is one of its own. */
  readonly names: readonly string[];
  /** It carries an account, or has a tag that only a script can define. */
  readonly isSure: boolean;
}

/** An element that a loader is told to fill. */
export interface Target extends Fact {
  readonly id: string;
}

/** A value that looks like an account at a provider. */
export interface Account extends Fact {
  readonly value: string;
  /** What it is called where it stands: a query's name, an attribute, a setting, or the call it is given to. */
  readonly label: string;
  /** The registrable domain of the host it belongs to, where one can be told. */
  readonly domain: string | undefined;
  /** Globals that are started with it, in a call or by a command in their queue. */
  readonly starts: readonly string[];
}

/** A global object of plain values that a loader reads later. */
export interface Settings extends Fact {
  readonly name: string;
  readonly keys: readonly string[];
}

/** A named event that the code reports. */
export interface SentEvent extends Fact {
  readonly name: string;
  /** What it is given to. */
  readonly to: string;
}

export interface Stored extends Fact {
  readonly where: 'cookie' | 'localStorage' | 'sessionStorage';
  /** Undefined where the name is put together at run time. */
  readonly key: string | undefined;
}

/** Something that lies over the page. */
export interface FloatingBox extends Fact {
  readonly corner: string;
  readonly position: 'fixed' | 'sticky';
  /** How far from the window's edges, in CSS pixels, as far as that is written. */
  readonly edges: { readonly [edge in 'top' | 'right' | 'bottom' | 'left']?: number };
  readonly width?: number;
  readonly height?: number;
  readonly zIndex?: number;
  /** Widths of the window at which it is there, in CSS pixels, where that is not all. */
  readonly minWindow?: number;
  readonly maxWindow?: number;
}

/** What a page's policy may forbid a script to do, whatever it is fetched from. */
export interface Sink extends Fact {
  /** Text that becomes markup or an address of code (Trusted Types, 4), or becomes code itself. */
  readonly kind: 'markup' | 'script-address' | 'eval';
}

/** Something of the browser that a page may keep to itself by a header (Permissions Policy, 4.1). */
export interface AskedFeature extends Fact {
  /** As the standards call it: `geolocation`, `camera`. */
  readonly feature: string;
  /** Address of the frame that is to have it, where it is not for the page itself. */
  readonly frame?: string;
}

/** A frame of its own that may not run scripts. */
export type ScriptlessFrame = Fact;

export type PageChangeKind =
  | 'base'
  | 'redirect'
  | 'reload'
  | 'noindex'
  | 'title'
  | 'canonical'
  | 'viewport'
  | 'charset'
  | 'policy'
  | 'worker'
  | 'hidden'
  | 'handler'
  | 'prototype'
  | 'wrapped';

/** Something that code does to the whole page, or to all code in it. */
export interface PageChange extends Fact {
  readonly kind: PageChangeKind;
  /** An address, a value or a name, as the kind has it. */
  readonly what: string;
  /** Done only where it is not there yet. */
  readonly isGuarded: boolean;
}

export type MarkKind = 'placeholder' | 'test' | 'secret';

/** A value that should not go live as it is. */
export interface Mark extends Fact {
  readonly kind: MarkKind;
  readonly value: string;
}

export type ProblemKind =
  'syntax' | 'unread' | 'ignored' | 'no-script-tags' | 'escaped' | 'curly-quotes' | 'json' | 'empty';

/** Why a browser could not do with the code what it is for. */
export interface CodeProblem extends Fact {
  readonly kind: ProblemKind;
  /** Line and column in the pasted text, from 1. */
  readonly line: number;
  readonly column: number;
  readonly message: string;
}

export type Language = 'markup' | 'javascript' | 'css' | 'json' | 'text';

export type ShapeKind =
  | 'analytics'
  | 'container'
  | 'pixel'
  | 'chat'
  | 'ads'
  | 'pop-up'
  | 'booking'
  | 'form'
  | 'consent'
  | 'accessibility'
  | 'share'
  | 'style'
  | 'metadata'
  | 'other';

export interface Shape {
  readonly kind: ShapeKind;
  readonly confidence: Confidence;
  /** What it was told by, in words. */
  readonly because: string;
}

/** What one piece of code is, read without running it. */
export interface Facts {
  readonly language: Language;
  /** Length in UTF-8. */
  readonly bytes: number;
  readonly problems: readonly CodeProblem[];
  readonly pasteMistakes: readonly PasteMistake[];
  readonly loads: readonly Load[];
  readonly defines: readonly Definition[];
  readonly resets: readonly Reset[];
  readonly uses: readonly Use[];
  readonly needs: readonly NeededElement[];
  readonly makes: readonly MadeElement[];
  /** Empty elements that wait for a script. */
  readonly slots: readonly Slot[];
  /** Elements that its scripts are told to fill. */
  readonly targets: readonly Target[];
  /** What its comments say of further pieces of code. */
  readonly mentions: readonly PieceMention[];
  readonly accounts: readonly Account[];
  readonly settings: readonly Settings[];
  readonly events: readonly SentEvent[];
  readonly storage: readonly Stored[];
  /** Hosts that are talked to, sorted. */
  readonly hosts: readonly string[];
  readonly boxes: readonly FloatingBox[];
  /** Calls of `document.write`. */
  readonly writes: readonly (Fact & { readonly when: ExecutionPhase })[];
  readonly pageChanges: readonly PageChange[];
  readonly sinks: readonly Sink[];
  readonly features: readonly AskedFeature[];
  readonly scriptlessFrames: readonly ScriptlessFrame[];
  readonly marks: readonly Mark[];
  /** A time zone that it names, as the IANA calls them. */
  readonly timeZone: string | undefined;
  /** Top-level elements and texts of the markup, or one piece of the whole for other languages. */
  readonly pieces: readonly Piece[];
  readonly shape: Shape;
}

export type PieceKind =
  'script' | 'data' | 'style' | 'link' | 'meta' | 'noscript' | 'frame' | 'content' | 'comment' | 'text';

export interface Piece {
  readonly kind: PieceKind;
  readonly range: Range;
  /** The element's name; empty for text and comments. */
  readonly name: string;
}
