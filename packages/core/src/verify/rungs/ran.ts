import { isScriptType } from '../../facts/index.js';
import { say } from '../../texts/say.js';
import { VISIT_TEXTS as T } from '../../texts/visit.js';
import type { SeenException, SeenScript, SeenViolation } from '../../visit/index.js';
import { isOf, type Owner } from '../attribution.js';
import { heldUp } from './held-up.js';
import { filesOf } from './loaded.js';
import { partScripts } from './part-scripts.js';
import { hasId } from './page-ids.js';
import { fileOf, isWell } from './request-causes.js';
import type { Cause, ReadPart, RungCase, RungFound } from './types.js';

/** How many names of a page are kept. */
const MOST_GLOBALS = 500;

/** Its code could be read, nothing of it stopped with an error, no policy kept it from running, and what it makes is there. */
export function judgeRan(rung: RungCase): RungFound {
  const blocked = blockedCode(rung);
  if (blocked) return { state: 'failed', isOwn: true, cause: blocked };
  const errors = errorsOf(rung);
  const own = errors.find(({ isOwn }) => isOwn);
  if (own) return { state: 'failed', isOwn: true, cause: errorCause(own.error, rung) };
  const missing = notRun(rung);
  if (missing) return { state: 'failed', isOwn: true, cause: missing };
  const gone = missingGlobal(rung);
  if (gone) return { state: 'failed', isOwn: false, cause: gone };
  const [further] = errors;
  if (further) return { state: 'failed', isOwn: false, cause: errorCause(further.error, rung) };
  return { state: 'reached', message: T.ran };
}

interface OwnedError {
  readonly error: SeenException;
  /** In the part's own code, not in a file that it loads. */
  readonly isOwn: boolean;
}

function errorsOf({ snippet, load, attribution }: RungCase): readonly OwnedError[] {
  return load.exceptions.flatMap((error): OwnedError[] => {
    const owner = ownerOfError(error, attribution);
    return isOf(owner, snippet) && owner.kind === 'snippet' ? [{ error, isOwn: owner.via.length === 0 }] : [];
  });
}

/** Whose an error is: whose script could not be read, or whose calls led to it. */
export function ownerOfError(error: SeenException, attribution: RungCase['attribution']): Owner {
  const byStack = attribution.ofStack(error.stack);
  if (byStack.kind === 'snippet' || error.script === undefined) return byStack;
  const byScript = attribution.ofScript(error.script);
  return byScript.kind === 'unknown' ? byStack : byScript;
}

function errorCause(error: SeenException, rung: RungCase): Cause {
  const evidence = [placeOf(error, rung)];
  if (error.isSyntax)
    return {
      id: 'syntax',
      message: say(T.syntax, { message: plainMessage(error.message) }),
      advice: T.syntaxAdvice,
      who: 'you',
      evidence,
    };
  const name = /^(?:Uncaught )?ReferenceError: ([\p{L}\p{N}_$]+) is not defined/u.exec(error.message)?.[1];
  if (name !== undefined) return { ...undefinedCause(name, rung), evidence };
  const element = missingElement(error, rung);
  if (element) return { ...element, evidence };
  return {
    id: 'exception',
    message: say(T.exception, { message: plainMessage(error.message) }),
    advice: T.exceptionAdvice,
    who: 'provider',
    evidence,
  };
}

/** Why a name is not there: who should have made it, and what became of that. */
function undefinedCause(name: string, rung: RungCase): Omit<Cause, 'evidence'> {
  const { snippet, all, expected } = rung;
  const makers = all.filter(
    (part) => part.snippet !== snippet && part.facts.defines.some((one) => one.name === name),
  );
  const maker =
    makers.find((part) =>
      expected.snippets.some((one) => one.snippet === part.snippet && one.expected === 'runs'),
    ) ?? makers[0];
  if (maker) {
    const state = expected.snippets.find((one) => one.snippet === maker.snippet);
    const params = { name, maker: maker.name };
    if (state?.expected !== 'runs')
      return {
        id: 'dependency-left-out',
        message: say(T.undefinedOut, { ...params, because: state?.because ?? '' }).trim(),
        advice: say(T.undefinedOutAdvice, params),
        who: 'you',
      };
    const files = filesOf({
      ...rung,
      snippet: maker.snippet,
      parts: all.filter((one) => one.snippet === maker.snippet),
    });
    if (files.some(({ request }) => !isWell(request)))
      return {
        id: 'dependency-failed',
        message: say(T.undefinedFailed, params),
        advice: say(T.undefinedFailedAdvice, params),
        who: 'you',
      };
    return {
      id: 'dependency-later',
      message: say(T.undefinedLater, params),
      advice: say(T.undefinedLaterAdvice, params),
      who: 'you',
    };
  }
  const own = rung.parts
    .flatMap(({ facts }) => facts.loads)
    .find(({ kind, noScript }) => kind === 'script' && !noScript);
  if (own)
    return {
      id: 'used-before-loaded',
      message: say(T.undefinedOwn, { name, file: fileOf(own.address) }),
      advice: T.undefinedOwnAdvice,
      who: 'you',
    };
  return {
    id: 'undefined-name',
    message: say(T.undefinedNobody, { name }),
    advice: T.undefinedNobodyAdvice,
    who: 'you',
  };
}

/** An error about nothing, in code that looks for an element that is not there (yet). */
function missingElement(
  error: SeenException,
  { parts, load }: RungCase,
): Omit<Cause, 'evidence'> | undefined {
  if (!/\bof null\b|\bnull is not\b|is null\b/.test(error.message)) return undefined;
  const need = parts.flatMap(({ facts }) => facts.needs).find(({ isGuarded }) => !isGuarded);
  if (!need) return undefined;
  const { selector, id } = need;
  const isThere = id !== undefined && hasId(load.dom, id);
  return {
    id: isThere ? 'element-later' : 'no-element',
    message: say(isThere ? T.lateElement : T.missingElement, { selector }),
    advice: isThere ? T.lateElementAdvice : T.missingElementAdvice,
    who: 'you',
  };
}

/** Inline code that the page's policy stopped. */
function blockedCode({ snippet, parts, load, attribution }: RungCase): Cause | undefined {
  const own = load.violations.filter(
    (violation) =>
      violation.isEnforced &&
      /^(?:inline|eval)$/.test(violation.blocked) &&
      /script|default/.test(violation.directive),
  );
  const of = (violation: SeenViolation): boolean => {
    if (violation.script !== undefined) return isOf(attribution.ofScript(violation.script), snippet);
    if (violation.line < 0) return false;
    return isOf(attribution.ofPlace(violation.line, violation.column), snippet);
  };
  const found =
    own.find(of) ??
    (own.length > 0 && hasUnrunScript(parts, load.scripts) ? own.find(({ line }) => line < 0) : undefined);
  if (!found) return undefined;
  const isEval = found.blocked === 'eval';
  return {
    id: isEval ? 'eval-blocked' : 'inline-blocked',
    message: isEval ? T.policyEval : T.policyInline,
    advice: isEval ? T.policyEvalAdvice : T.policyInlineAdvice,
    who: isEval ? 'provider' : 'you',
    evidence: [`${found.directive}: ${found.blocked}`],
  };
}

/** Scripts that a browser should have run and did not: in the page, or files that it got. */
function notRun(rung: RungCase): Cause | undefined {
  const { parts, load } = rung;
  const held = parts.flatMap(({ own }) => heldTypes(own))[0];
  if (held !== undefined)
    return {
      id: 'held-by-type',
      message: say(T.heldByType, { type: held }),
      advice: T.heldByTypeAdvice,
      who: 'you',
      evidence: [`<script type="${held}">`],
    };
  const part = parts.find((one) => hasUnrunScript([one], load.scripts));
  const blocked = part ? heldUp(rung) : undefined;
  if (blocked) return blocked;
  if (part)
    return {
      id: 'not-run',
      message: T.didNotRun,
      advice: T.didNotRunAdvice,
      who: 'you',
      evidence: [part.key],
    };
  const file = filesOf(rung).find(
    ({ request: { kind, url, frame, redirect }, isOwn }) =>
      isOwn &&
      kind === 'script' &&
      frame === undefined &&
      redirect === undefined &&
      !load.scripts.some((one) => one.url === url),
  );
  if (!file || hasRedirect(file.request.url, load)) return undefined;
  const waiting = heldUp(rung);
  if (waiting) return waiting;
  return {
    id: 'not-run',
    message: say(T.fileDidNotRun, { file: fileOf(file.request.url) }),
    advice: T.fileDidNotRunAdvice,
    who: 'you',
    evidence: [file.request.url],
  };
}

/** A function that its own code defines, and that is not there: values are taken away by those who read them, functions are not. */
function missingGlobal({ parts, load }: RungCase): Cause | undefined {
  // Of a page with more names only the first are kept.
  if (load.globals.length >= MOST_GLOBALS) return undefined;
  for (const { key, facts } of parts) {
    const missing = facts.defines.find(
      ({ name, what, when, confidence, from, isStub }) =>
        what === 'function' &&
        when === 'parse' &&
        confidence === 'certain' &&
        from === undefined &&
        !isStub &&
        !name.includes('.') &&
        !load.globals.includes(name),
    );
    if (missing)
      return {
        id: 'missing-name',
        message: say(T.missingGlobal, { name: missing.name }),
        advice: T.missingGlobalAdvice,
        who: 'unknown',
        evidence: [key],
      };
  }
  return undefined;
}

/** What came by a redirect is known by the address that it was asked for by. */
function hasRedirect(url: string, { requests }: RungCase['load']): boolean {
  return requests.some(({ redirect }) => redirect === url);
}

/** Types by which consent banners keep scripts from running; nothing else uses them. */
function heldTypes(code: string): readonly string[] {
  const types = partScripts(code).map(({ type }) => type);
  return types.length > 0 && types.every((type) => /^text\/plain$|blocked$/i.test(type)) ? types : [];
}

function hasUnrunScript(parts: readonly ReadPart[], scripts: readonly SeenScript[]): boolean {
  return parts.some(({ own }) =>
    inlineScripts(own).some(
      (text) => !scripts.some(({ source }) => source !== undefined && source.trim() === text),
    ),
  );
}

/** The inline classic scripts of a part, as texts; modules and data run otherwise or not at all. */
function inlineScripts(code: string): readonly string[] {
  return partScripts(code).flatMap(({ type, hasFile, text }) =>
    !hasFile && text !== '' && isScriptType(type) && !/^module$/i.test(type) ? [text] : [],
  );
}

function plainMessage(message: string): string {
  return message.replace(/^Uncaught /, '').replace(/\.$/, '');
}

function placeOf({ message, url, line, column }: SeenException, { load }: RungCase): string {
  const file = url === '' || url === load.finalUrl ? 'in the page' : fileOf(url);
  return `${plainMessage(message)} (${file}, line ${line + 1}, column ${column + 1})`;
}
