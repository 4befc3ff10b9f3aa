import { say } from '../texts/say.js';
import { TROUBLE_TEXTS as T } from '../texts/trouble.js';
import type { LoadEvidence } from '../visit/index.js';
import type { Symptom } from './damage.js';
import type { JudgedLoad } from './judge-visit.js';
import { fileOf } from './rungs/request-causes.js';
import type { Responsible } from './rungs/types.js';
import type { Doubled, Source } from './twice.js';

/** Something that is wrong on a page, and whose doing it is. */
export interface Trouble {
  readonly kind: 'broken' | 'twice' | 'early' | 'missed';
  readonly message: string;
  readonly advice: string;
  readonly who: Responsible;
  /** Keys of snippets; empty for the page's own doing and for what nobody can tell. */
  readonly culprits: readonly string[];
  readonly evidence: readonly string[];
}

/** Who has caused symptoms of a broken page, as visits without them have shown. */
export interface Blamed {
  readonly symptoms: readonly Symptom[];
  /** One for a single culprit, several that do it only together, none where it could not be told. */
  readonly snippets: readonly BlamedSnippet[];
}

export interface BlamedSnippet {
  readonly key: string;
  readonly name: string;
  /** Since when it has been as it is, in words. */
  readonly since?: string;
  /** What visits with it as it was before have shown. */
  readonly former?: FormerForms;
}

/** Releases by what they had of a snippet. */
export type FormerForms =
  /** The newest with which the page works, and the first after it with which it does not; left out for the one that is served. */
  | { readonly well: number; readonly brokenSince?: number }
  /** The page works with none; the oldest that was tried. */
  | { readonly well: null; readonly oldest: number };

/** What broke a page, in words. */
export function brokenTrouble({ symptoms, snippets }: Blamed): Trouble {
  const symptom = symptoms[0]!.message;
  const evidence = symptoms.slice(1).map(({ message }) => message);
  const [first, ...others] = snippets;
  const head = { kind: 'broken', culprits: snippets.map(({ key }) => key) } as const;
  if (!first)
    return {
      ...head,
      message: say(T.brokenUnknown, { symptom }),
      advice: T.brokenUnknownAdvice,
      who: 'you',
      evidence,
    };
  if (others.length > 0)
    return {
      ...head,
      message: say(T.brokenTogether, { names: snippets.map(({ name }) => say(T.quoted, { name })), symptom }),
      advice: T.brokenTogetherAdvice,
      who: 'you',
      evidence,
    };
  return {
    ...head,
    message: say(T.broken, { name: first.name, symptom }),
    advice: adviceOn(first),
    who: 'you',
    evidence: [...evidence, ...historyWords(first)],
  };
}

function adviceOn({ name, former }: BlamedSnippet): string {
  return former && former.well !== null
    ? say(T.brokenChangedAdvice, { name, former: former.well })
    : say(T.brokenAdvice, { name });
}

function historyWords({ name, since, former }: BlamedSnippet): string[] {
  return [...(since === undefined ? [] : [since]), ...(former ? [formerWords(name, former)] : [])];
}

function formerWords(name: string, former: FormerForms): string {
  if (former.well === null) return say(T.formerToo, { name, oldest: former.oldest });
  const { well, brokenSince } = former;
  return brokenSince === undefined
    ? say(T.formerWell, { name, former: well })
    : say(T.formerSince, { name, former: well, since: brokenSince });
}

/** What is wrong with a page that has none of our snippets in it. */
export function ownTrouble(bare: LoadEvidence): Trouble | undefined {
  const symptom = bare.isHung
    ? T.hungItself
    : bare.status !== null && bare.status >= 400
      ? say(T.status, { status: bare.status })
      : undefined;
  if (symptom === undefined) return undefined;
  return {
    kind: 'broken',
    message: say(T.brokenItself, { symptom }),
    advice: T.brokenItselfAdvice,
    who: 'site',
    culprits: [],
    evidence: bare.exceptions.map(({ message }) => say(T.ownError, { message })),
  };
}

/** What happens twice on a page load, each with how to have it once. */
export function twiceTroubles({ doubled }: JudgedLoad): readonly Trouble[] {
  return doubled.map((one): Trouble => {
    const names = one.sources.map(sourceWords);
    const message =
      one.kind === 'file'
        ? say(T.twiceFile, { file: fileOf(one.url), count: one.count, known: names.length, names })
        : say(T.twiceReport, {
            host: new URL(one.url).hostname,
            count: one.count,
            known: names.length,
            names,
          });
    return {
      kind: 'twice',
      message,
      advice: say(T.twiceAdvice, { how: howToHaveOnce(one) }),
      who: one.sources.some(({ snippet }) => snippet === null) ? 'site' : 'you',
      culprits: one.sources.flatMap(({ snippet }) => snippet ?? []),
      evidence: [one.url],
    };
  });
}

function howToHaveOnce({ sources }: Doubled): string {
  if (sources.length === 0) return T.findBoth;
  if (sources.some(({ snippet }) => snippet === null)) return T.keepHere;
  const container = sources.find(({ via }) => via.length > 1);
  if (container) return say(T.removeInContainer, { name: container.name });
  return say(T.switchOff, { name: sources.at(-1)?.name ?? '' });
}

function sourceWords({ snippet, name, via }: Source): string {
  if (snippet === null) return T.pageItself;
  return via.length > 1 ? say(T.through, { name, file: fileOf(via[0]!) }) : say(T.quoted, { name });
}

/** What was stored before the visitor had agreed to anything; what consent banners keep is the answer. */
export function earlyTroubles({ stages, banners }: JudgedLoad): readonly Trouble[] {
  const before = stages.filter(({ stage }) => stage === 'before').flatMap(({ disclosures }) => disclosures);
  return before
    .filter(
      ({ stored, snippet }) =>
        stored.length > 0 && !(typeof snippet === 'string' && banners.includes(snippet)),
    )
    .map(({ snippet, name, stored }): Trouble => {
      const keys = stored.map(({ where, key }) => `${key} (${where})`);
      const isOurs = typeof snippet === 'string';
      const who = isOurs ? say(T.quoted, { name }) : snippet === null ? T.pageItself : T.unknownWho;
      return {
        kind: 'early',
        message: say(T.early, { who: capital(who), keys }),
        advice: isOurs ? say(T.earlyAdvice, { name }) : T.earlyItselfAdvice,
        who: isOurs ? 'you' : 'site',
        culprits: isOurs ? [snippet] : [],
        evidence: keys,
      };
    });
}

/** Snippets that did not come as far as they should have. */
export function missedTroubles({ snippets }: JudgedLoad): readonly Trouble[] {
  return snippets.flatMap(({ snippet, name, rungs }): Trouble[] => {
    const cause = rungs.find(({ state }) => state === 'failed')?.cause;
    if (!cause) return [];
    const { message, advice, who, evidence } = cause;
    return [
      {
        kind: 'missed',
        message: say(T.missed, { name, message }),
        advice,
        who,
        culprits: [snippet],
        evidence,
      },
    ];
  });
}

/** Kinds of trouble, in the order in which a page without any is told of. */
const KINDS = ['missed', 'twice', 'early', 'broken'] as const satisfies readonly Trouble['kind'][];

/** What to say of a page that is well. @param about - what was asked; nothing is said of the rest */
export function wellWords(path: string, { snippets }: JudgedLoad, about: readonly Trouble['kind'][]): string {
  const count = snippets.filter(({ expected }) => expected === 'runs').length;
  if (count === 0) return say(T.wellNone, { path });
  const facts = KINDS.filter((kind) => about.includes(kind)).map((kind) => say(T.wellFacts[kind], { count }));
  return say(T.well, { path, facts });
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
