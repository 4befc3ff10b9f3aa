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

/** A value that looks like an account at a provider. */
export interface Account extends Fact {
  readonly value: string;
  /** What it is called where it stands: a query's name, an attribute, a setting, or the call it is given to. */
  readonly label: string;
  /** The registrable domain of the host it belongs to, where one can be told. */
  readonly domain: string | undefined;
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
  readonly loads: readonly Load[];
  readonly defines: readonly Definition[];
  readonly uses: readonly Use[];
  readonly needs: readonly NeededElement[];
  readonly makes: readonly MadeElement[];
  readonly accounts: readonly Account[];
  readonly settings: readonly Settings[];
  readonly events: readonly SentEvent[];
  readonly storage: readonly Stored[];
  /** Hosts that are talked to, sorted. */
  readonly hosts: readonly string[];
  readonly boxes: readonly FloatingBox[];
  /** Calls of `document.write`. */
  readonly writes: readonly (Fact & { readonly when: ExecutionPhase })[];
  readonly marks: readonly Mark[];
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
