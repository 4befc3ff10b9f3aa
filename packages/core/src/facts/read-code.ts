import { tooMuchOf, type TooMuch } from '../bounds/too-much.js';
import { accountsOf } from './accounts.js';
import { hostOf } from './addresses.js';
import { languageOf } from './language.js';
import { marksOf } from './marks/marks.js';
import { pasteMistakes } from './paste/mistakes.js';
import type { PasteMistake } from './paste/rule.js';
import { mentionsInComments } from './piece-mentions.js';
import { targetsOf } from './targets.js';
import { readMarkup, type MarkupContext } from './markup/read-markup.js';
import { readScript } from './script/read-script.js';
import { Record, type SeenCall } from './script/record.js';
import { HOLE, asText } from './script/values.js';
import { shapeOf } from './shape.js';
import { readStyles } from './styles.js';
import { timeZoneIn } from './time-zone.js';
import { lineAndColumn, utf8Length } from './text.js';
import type {
  CodeProblem,
  Facts,
  Load,
  NeededElement,
  Piece,
  ProblemKind,
  Range,
  SentEvent,
  Use,
} from './types.js';
import { FACTS_TEXTS } from '../texts/facts.js';
import { say } from '../texts/say.js';

/** A line that only a module may have. */
export const IS_MODULE = /^[ \t]*(?:import|export)\b/m;

/** Markup inside markup is read so deep: a script that writes a script that writes one. */
const MAX_WRITTEN_DEPTH = 3;

/**
 * Reads what a piece of code is and does, without running it: markup by the HTML Standard's parser, scripts by a parser
 * of the newest ECMAScript and by following their constants.
 *
 * @param code - as pasted: markup, JavaScript, styles or JSON
 */
export function readCode(code: string): Facts {
  try {
    return read(code);
  } catch (error) {
    const what = tooMuchOf(error);
    if (what === undefined) throw error;
    return unreadFacts(code, { what });
  }
}

/** Why code was not read to its end. */
export type GivenUp =
  | { readonly what: TooMuch | 'memory' }
  | { readonly what: 'time'; /** That it was given. */ readonly seconds: number };

function givenUpWords(why: GivenUp): string {
  const words = FACTS_TEXTS.couldNotBecause;
  return why.what === 'time' ? say(words.time, { seconds: why.seconds }) : words[why.what];
}

/** The facts of code that cannot be read within bounds: nothing is known of it, and it says so. */
export function unreadFacts(code: string, why: GivenUp): Facts {
  const context: MarkupContext = { record: new Record(), problem: () => undefined, attributes: [] };
  const problem: CodeProblem = {
    kind: 'unread',
    get message() {
      return say(FACTS_TEXTS.codeCouldNot, { why: givenUpWords(why) });
    },
    line: 1,
    column: 1,
    range: { start: 0, end: Math.min(1, code.length) },
    confidence: 'certain',
  };
  // As markup it is tried in pages, which needs no facts.
  return factsOf(context, {
    code: '',
    language: 'markup',
    problems: [problem],
    mistakes: [],
    pieces: [],
  });
}

function read(code: string): Facts {
  const record = new Record();
  const problems: CodeProblem[] = [];
  const problem = (kind: ProblemKind, offset: number, message: () => string): void => {
    problems.push({
      kind,
      // Facts are kept for readers of any language.
      get message() {
        return message();
      },
      ...lineAndColumn(code, offset),
      range: { start: offset, end: Math.min(offset + 1, code.length) },
      confidence: 'certain',
    });
  };
  const context: MarkupContext = { record, problem, attributes: [] };
  const language = languageOf(code);
  const pieces = readByLanguage(context, code, language);
  readWritten(context, 0);
  const mistakes = pasteMistakes(code);
  const isRead = !problems.some(({ kind }) => kind === 'syntax');
  addTextProblems(code, language, mistakes, isRead, problem);
  return factsOf(context, { code, language, problems, mistakes, pieces });
}

function readByLanguage(context: MarkupContext, code: string, language: Facts['language']): readonly Piece[] {
  const whole = { start: 0, end: code.length };
  switch (language) {
    case 'markup':
      return readMarkup(context, code);
    case 'javascript': {
      const wrong = readScript(context.record, code, {
        base: 0,
        when: 'parse',
        isModule: IS_MODULE.test(code),
      });
      if (wrong) context.problem('syntax', wrong.offset, () => wrong.message);
      return [{ kind: 'script', name: '', range: whole }];
    }
    case 'css':
      readStyles(context.record, code, 0);
      return [{ kind: 'style', name: '', range: whole }];
    case 'json':
      return [{ kind: 'data', name: '', range: whole }];
    case 'text':
      return code.trim() === '' ? [] : [{ kind: 'text', name: '', range: whole }];
  }
}

/** Markup that scripts write is markup of the page. */
function readWritten(context: MarkupContext, depth: number): void {
  const { record } = context;
  const written = record.written.splice(0);
  for (const { html, confidence, range, when, isDocumentWrite } of written) {
    const loads = record.loads.length;
    const makes = record.makes.length;
    const boxes = record.boxes.length;
    readMarkup({ ...context, problem: () => undefined }, html.replaceAll('<\\/', '</'));
    // Scripts that come in by innerHTML never run (HTML Standard, "already started").
    const added = record.loads.splice(loads).filter(({ kind }) => isDocumentWrite || kind !== 'script');
    record.loads.push(
      ...added.map((load): Load => ({
        ...load,
        by: 'write',
        when: load.when === 'parse' ? when : load.when,
        range,
        confidence: html.includes(HOLE) || confidence !== 'certain' ? 'likely' : load.confidence,
      })),
    );
    record.makes.push(
      ...record.makes.splice(makes).map((made) => ({ ...made, by: 'script' as const, range })),
    );
    record.boxes.push(...record.boxes.splice(boxes).map((box) => ({ ...box, range })));
    if (isDocumentWrite) record.writes.push({ range, when, confidence: 'certain' });
  }
  if (record.written.length > 0 && depth < MAX_WRITTEN_DEPTH) readWritten(context, depth + 1);
}

function addTextProblems(
  code: string,
  language: Facts['language'],
  mistakes: readonly PasteMistake[],
  isRead: boolean,
  problem: (kind: ProblemKind, offset: number, message: () => string) => void,
): void {
  if (code.trim() === '') problem('empty', 0, () => FACTS_TEXTS.thereNoCode);
  const escaped = escapedTag(code);
  // What hides its tags, or has put something around them, is what is wrong.
  if (language === 'javascript' && escaped === undefined && mistakes.length === 0)
    problem('no-script-tags', 0, () => FACTS_TEXTS.scriptTextWithout);
  if (escaped !== undefined) problem('escaped', escaped, () => FACTS_TEXTS.codeWasCopied);
  // In a script that can be read they stand in strings.
  const looked = isRead ? withoutScripts(code, language) : code;
  const curly = /(?:=\s*|\(\s*|\bsrc\s*:\s*)[“”‘’]/.exec(looked);
  if (curly) problem('curly-quotes', curly.index + curly[0].length - 1, () => FACTS_TEXTS.codeHasTypographic);
}

/** Code with blanks where its scripts are. */
function withoutScripts(code: string, language: Facts['language']): string {
  if (language === 'javascript') return '';
  return code.replace(
    /(<script\b[^<>]*>)((?:[^<]|<(?!\/script))*)/gi,
    (_, tag: string, text: string) => tag + ' '.repeat(text.length),
  );
}

const REAL_TAG = /<(?:script|style|noscript|iframe|link|meta)\b/i;
const ESCAPED_TAG = /&lt;\/?(?:script|style|noscript|iframe|link|meta|div|img)\b/i;

/** Where a tag is written as text that nobody means to show: what stands in `pre` and `code` is meant so. */
function escapedTag(code: string): number | undefined {
  if (!ESCAPED_TAG.test(code) || REAL_TAG.test(code)) return undefined;
  const shown = code
    .replace(/<(pre|code|textarea|samp|xmp)\b[^<>]*>(?:[^<]|<(?!\/\1))*/gi, (text) => ' '.repeat(text.length))
    .replace(/<[^<>]*>/g, (tag) => ' '.repeat(tag.length));
  const at = shown.search(ESCAPED_TAG);
  return at < 0 ? undefined : at;
}

interface Read {
  readonly code: string;
  readonly language: Facts['language'];
  readonly problems: CodeProblem[];
  readonly mistakes: readonly PasteMistake[];
  readonly pieces: readonly Piece[];
}

function factsOf(
  { record, attributes }: MarkupContext,
  { code, language, problems, mistakes, pieces }: Read,
): Facts {
  const loads = withoutRepeats(record.loads.filter(({ address }) => address !== '' && address !== HOLE));
  const ranges = new Map<string, Range>(record.defines.map(({ name, range }) => [name, range]));
  const seen = { defines: record.defines, loads, calls: record.calls, attributes, globals: record.globals };
  const ownPlaceOf = ownPlaces(record);
  const accounts = accountsOf(seen, ranges);
  const unshaped = {
    language,
    bytes: utf8Length(code),
    problems,
    pasteMistakes: mistakes,
    loads,
    defines: record.defines,
    resets: record.resets,
    uses: realUses(record),
    needs: record.needs.map((need) => ({ ...need, own: ownPlaceOf(need) })),
    makes: withoutRepeats(record.makes),
    slots: record.slots,
    targets: [...record.targets, ...record.calls.flatMap(targetsOf)],
    mentions: mentionsInComments(code),
    accounts,
    settings: record.settings,
    events: record.calls.flatMap(eventOf),
    storage: withoutRepeats(record.storage),
    hosts: [...new Set(loads.flatMap(({ address }) => hostOf(address) ?? []))].sort(),
    boxes: record.boxes,
    writes: record.writes,
    pageChanges: record.pageChanges,
    sinks: record.sinks,
    features: record.features,
    scriptlessFrames: record.scriptlessFrames,
    marks: marksOf(code, accounts),
    timeZone: timeZoneIn(code),
    pieces,
  };
  return { ...unshaped, shape: shapeOf(unshaped, code) };
}

/** What the code makes itself, at any time, is not needed later; what it makes before is not needed at all. */
function realUses({ uses, defines }: Record): Use[] {
  const first = new Map<string, number>();
  for (const { name, range } of defines) first.set(name, Math.min(first.get(name) ?? Infinity, range.start));
  return uses.filter(({ name, when, range }) => {
    const made = first.get(name);
    return made === undefined || (when !== 'later' && made > range.start);
  });
}

/** Where an element that is needed is made by a tag of the code itself. */
function ownPlaces({ makes }: Record): (need: NeededElement) => 'before' | 'after' | undefined {
  const starts = new Map<string, number>();
  for (const { id, by, range } of makes) if (by === 'tag' && !starts.has(id)) starts.set(id, range.start);
  return ({ id, range }) => {
    const start = id === undefined ? undefined : starts.get(id);
    if (start === undefined) return undefined;
    return start < range.start ? 'before' : 'after';
  };
}

/** A named event: `x('event', 'booked')`, `x.track('booked')`, `queue.push({ event: 'booked' })`. */
function eventOf({ name, args, range }: SeenCall): SentEvent[] {
  const last = name.split('.').at(-1)!;
  const [first, second] = args;
  if (first?.kind === 'object' && last === 'push') {
    const event = first.properties.get('event');
    return event?.kind === 'text' ? [{ name: event.text, to: name, range, confidence: 'certain' }] : [];
  }
  const verb = /^(event|track|trackevent|send|fire|emit|conversion|logevent|record|capture)$/i;
  if (first?.kind === 'text' && second && verb.test(first.text))
    return [{ name: asText(second).text, to: name, range, confidence: 'certain' }];
  if (first?.kind === 'text' && verb.test(last) && name.includes('.'))
    return [{ name: first.text, to: name, range, confidence: 'certain' }];
  return [];
}

function withoutRepeats<T extends { readonly range: Range }>(facts: readonly T[]): T[] {
  const seen = new Set<string>();
  return facts.filter((fact) => {
    const key = JSON.stringify(fact);
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}
