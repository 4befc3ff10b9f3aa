import { Classes } from './classes.js';
import { FormattingList } from './formatting.js';
import { Ints, PageWindow } from './memory.js';
import { Names } from './names.js';
import { OpenElements } from './open-elements.js';
import { Selection } from './selection.js';

/** Insertion modes (HTML Standard 13.2.4.1). */
export const enum Mode {
  Initial,
  BeforeHtml,
  BeforeHead,
  InHead,
  AfterHead,
  InBody,
  Text,
  InTable,
  InCaption,
  InColumnGroup,
  InTableBody,
  InRow,
  InCell,
  InSelect,
  InSelectInTable,
  InTemplate,
  AfterBody,
  InFrameset,
  AfterFrameset,
  AfterAfterBody,
  AfterAfterFrameset,
}

/** "Reprocess the token": whether the current tag is to be processed again, and how. */
export const enum Reprocess {
  No,
  /** By the rules of the insertion mode. */
  ByMode,
  /** From the tree construction dispatcher on. */
  AsToken,
}

/** Between which states of the tokenizer (13.2.5) a chunk may end. */
export const enum TokenizerState {
  Data,
  /** A start tag is read and waits for an answer. */
  Tag,
  Comment,
  BogusComment,
  Cdata,
  RawText,
  Script,
  Plaintext,
}

/** What `run` stopped for. */
export const enum Status {
  /** All bytes are used, as far as possible. */
  More,
  /** A question is to be answered; see `ask`. */
  Query,
  /** The page is too long, or nests too deep or names too many things; there are no more events. */
  GivenUp,
  /** The page must be read again with all of its elements; see `fast-path.ts`. */
  BailOut,
}

export const enum Query {
  None,
  /** Does this doctype (its bytes are the token's) mean quirks mode? 1 or 0 */
  Doctype,
  /** Which steps of selectors does this start tag fit? See `selection.ts` */
  Tag,
}

/** What was read last. */
export const enum Token {
  Other,
  StartTag,
  EndTag,
}

/** Places and refusals, as `event(kind, position, argument, argument)`. */
export const enum Event {
  /** 1: the head is only implied here */
  HeadStart,
  /** 1: the head is implied and nothing of it was written */
  HeadEnd,
  /** 1: the body is only implied here */
  BodyStart,
  BodyEnd,
  /** The body is replaced by a frameset: events since its start do not hold. */
  Frameset,
  /** Whether the body stays is not known after so many bytes. */
  BodyUndecided,
  /** Before an element: the number of its selector, an `Anchor` */
  Before,
  /** First inside an element: the same */
  Inside,
  /** Last inside an element: the same */
  InsideEnd,
  /** Behind an element: the same */
  After,
  /** The head element that ends at `watch` is complete. */
  Watched,
  /** Placements (bits 1 head-end, 2 body-start, 4 body-end, 8 head-start), a `LeftOut` */
  LeftOut,
}

export const enum LeftOut {
  Unfinished,
  Template,
  Foreign,
}

/** Which placements are meant, as bits. */
export const enum Places {
  HeadEnd = 1,
  BodyStart = 2,
  BodyEnd = 4,
  HeadStart = 8,
}

/** So many bytes are held back, at most, until it is known whether a place before them is the one. */
export const LOOKAHEAD: number = 1 << 18;
/** A tag longer than this is given up. */
export const MAX_TAG_LENGTH: number = 1 << 24;
export const MAX_PAGE_LENGTH: number = 1 << 30;

/** Everything that the machine knows between two tokens. */
export class Machine {
  readonly window: PageWindow = new PageWindow();
  /** Bytes in the window. */
  end: number = 0;
  /** The next byte to look at, in the window. */
  at: number = 0;
  /** The page's offset of the window's first byte. */
  base: number = 0;
  ended: boolean = false;

  tokenizerState: number = TokenizerState.Data;
  /** Where the comment that is being read began, in the page. */
  commentAt: number = -1;
  rawName: number = 0;
  scriptLevel: number = 0;
  scriptDashes: number = 0;
  /** How far the unfinished tag at `at` was read. */
  tagRead: number = 0;
  /** The page ends with `</`, which begins here: whatever is put after it becomes a comment. */
  openEndAt: number = -1;

  /** The current start or end tag: its number, its bytes in the window and where its name ends. */
  tag: number = 0;
  tagStart: number = 0;
  tagNameEnd: number = 0;
  tagEnd: number = 0;
  selfClosing: boolean = false;
  /** What `passOrdinary` came to: whether it has read a tag, and whether that is an end tag. */
  isRead: boolean = false;
  isEndTag: boolean = false;
  /** Where an unquoted value of the tag ends with a slash; -1 for nowhere. */
  valueSlash: number = -1;
  /** "Foster parenting" is enabled for the current start tag; its element was moved in front of the table. */
  isFostering: boolean = false;
  fostered: boolean = false;
  /** Its element has no content, and is not open. */
  appended: boolean = false;
  /** The tag has an attribute that selectors ask for. */
  isWanted: boolean = false;
  /** The kind of the token that was processed last. */
  token: number = Token.Other;

  query: number = Query.None;
  answer: number = 0;
  /** Ordinary elements may be passed over in the body, and are. */
  mayUseFastPath: boolean = false;
  isFastPath: boolean = false;
  hasBailedOut: boolean = false;
  /** How lead and trail bytes pair (see `cdata.ts`); 0 for encodings in which ASCII bytes always mean themselves. */
  pairs: number = 0;

  mode: number = Mode.Initial;
  reprocess: number = Reprocess.No;
  textReturn: number = Mode.InBody;
  quirks: boolean = true;
  framesetOk: boolean = true;
  hasHead: boolean = false;
  /** The number of the form that is open outside templates; 0 for none. */
  form: number = 0;

  readonly classes: Classes = new Classes();
  readonly names: Names = new Names();
  readonly formatting: FormattingList = new FormattingList();
  readonly selection: Selection = new Selection();
  readonly open: OpenElements = new OpenElements(this.classes, this.formatting, this.selection);
  /** Elements whose ends parts ask for: see `ends.ts`. */
  readonly ends: Ints = new Ints(64);
  endCount: number = 0;
  readonly templateModes: Ints = new Ints(32);
  templateDepth: number = 0;

  readonly events: Ints = new Ints(64);
  eventCount: number = 0;

  /** The end of the last head element, while the head may end there; -1 for none. */
  headCandidate: number = -1;
  /** The head is implied and nothing of it has been written. */
  headUnwritten: boolean = false;
  /** Where an implied body began, while a frameset may still replace it; -1 otherwise. */
  tentativeBodyAt: number = -1;
  bodyEnded: boolean = false;
  /** A head element that ends here makes an event; -1 for none. */
  watch: number = -1;

  /**
   * @param words - how many numbers hold the steps of selectors; 0 for none
   * @param wants - which start tags are asked about
   */
  reset(words: number, wants: number, mayUseFastPath: boolean, pairs: number): void {
    this.end = 0;
    this.at = 0;
    this.base = 0;
    this.ended = false;
    this.tokenizerState = TokenizerState.Data;
    this.commentAt = -1;
    this.tagRead = 0;
    this.openEndAt = -1;
    this.query = Query.None;
    this.selection.reset(words, wants);
    this.endCount = 0;
    this.mayUseFastPath = mayUseFastPath && words === 0;
    this.isFastPath = false;
    this.hasBailedOut = false;
    this.pairs = pairs;
    this.mode = Mode.Initial;
    this.quirks = true;
    this.framesetOk = true;
    this.hasHead = false;
    this.form = 0;
    this.names.reset();
    this.open.reset();
    this.formatting.reset();
    this.templateDepth = 0;
    this.eventCount = 0;
    this.headCandidate = -1;
    this.headUnwritten = false;
    this.tentativeBodyAt = -1;
    this.bodyEnded = false;
  }

  /** Tells of a place, or of one that there is not. */
  event(kind: number, position: number, first: number, second: number): void {
    const at = this.eventCount * 4;
    this.events.reserve(at + 4);
    this.events.set(at, kind);
    this.events.set(at + 1, position);
    this.events.set(at + 2, first);
    this.events.set(at + 3, second);
    this.eventCount++;
  }

  /** From where on the page must not be given out yet; -1 when all that was read may be. */
  hold(): number {
    let hold = this.tentativeBodyAt;
    if (this.headCandidate >= 0 && (hold < 0 || this.headCandidate < hold)) hold = this.headCandidate;
    if (this.commentAt >= 0 && (hold < 0 || this.commentAt < hold)) hold = this.commentAt;
    return hold;
  }

  overflow(): boolean {
    return (
      this.open.overflow ||
      this.names.overflow ||
      this.formatting.overflow ||
      this.base + this.at > MAX_PAGE_LENGTH
    );
  }
}
