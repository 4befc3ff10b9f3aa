import { DELIVER_TEXTS } from '../texts/deliver.js';
import type { Delivery } from './delivery.js';
import { folder } from './folder.js';
import { fragments } from './fragments.js';
import { gateway } from './gateway.js';
import { asyncLine, line } from './line.js';
import { middleware } from './middleware.js';
import { pasteDelivery } from './paste-blocks.js';

/** What the owner of a site is asked; each is left out while it is not answered. */
export interface OwnerAnswers {
  /** They can change where the domain points. */
  readonly pointsDomain?: boolean | undefined;
  /** There is a box for code of all pages. */
  readonly hasSiteBox?: boolean | undefined;
  /** There is a box for code of single pages. */
  readonly hasPageBox?: boolean | undefined;
  /** They have the files or the templates. */
  readonly hasFiles?: boolean | undefined;
}

export type OwnerQuestion = keyof OwnerAnswers;

export interface Recommendation {
  /** What to ask next; undefined where what is known is enough. */
  readonly ask: OwnerQuestion | undefined;
  /** Undefined while something has to be asked, or where nothing is left. */
  readonly way: Delivery | undefined;
  /** Why this one, or what to do where there is none. */
  readonly because: string;
}

/** The order in which they are asked: what settles most comes first, and what nobody needs to know any more is not asked. */
const QUESTIONS: readonly OwnerQuestion[] = ['hasSiteBox', 'pointsDomain', 'hasFiles', 'hasPageBox'];

/** Which way suits a site, from at most four answers. */
export function recommendWay(answers: OwnerAnswers): Recommendation {
  const t = DELIVER_TEXTS.recommends;
  const settled = (way: Delivery, because: string): Recommendation => ({ ask: undefined, way, because });
  if (answers.hasSiteBox) return settled(line, t.line);
  if (answers.pointsDomain) return settled(gateway, t.gateway);
  if (answers.hasFiles) return settled(folder, t.folder);
  if (answers.hasPageBox) return settled(pasteDelivery, t.paste);
  const ask = QUESTIONS.find((one) => answers[one] === undefined);
  return { ask, way: undefined, because: ask === undefined ? t.none : '' };
}

/** A question as the owner is asked it. */
export function questionWords(question: OwnerQuestion): string {
  return DELIVER_TEXTS.questions[question];
}

/** Ways that would do as well, as far as the answers say. */
export function otherWays(answers: OwnerAnswers): Delivery[] {
  const { way } = recommendWay(answers);
  const able: readonly (readonly [Delivery, boolean])[] = [
    [gateway, answers.pointsDomain === true],
    [line, answers.hasSiteBox === true],
    [asyncLine, answers.hasSiteBox === true],
    [pasteDelivery, answers.hasSiteBox === true || answers.hasPageBox === true],
    [folder, answers.hasFiles === true],
    [fragments, answers.hasFiles === true],
    [middleware, answers.hasFiles === true],
  ];
  return able.flatMap(([one, isPossible]) => (isPossible && one !== way ? [one] : []));
}
