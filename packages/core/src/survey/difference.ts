import { SURVEY_TEXTS } from '../texts/survey.js';
import { say } from '../texts/say.js';

/** On how many pages of each section something stands. */
export interface SeenThing {
  readonly key: string;
  readonly name: string;
  readonly sections: ReadonlyMap<string, number>;
  /** One of its pages. */
  readonly example: string;
}

export interface SurveyDifference {
  readonly newPages: { readonly count: number; readonly examples: readonly string[] };
  readonly gonePages: { readonly count: number; readonly examples: readonly string[] };
  readonly before: readonly SeenThing[];
  readonly after: readonly SeenThing[];
}

const MAX_NAMED = 3;

/** What differs between two surveys, in words: what came and went first, then on which pages. Empty where nothing does. */
export function surveyDifference({ newPages, gonePages, before, after }: SurveyDifference): string[] {
  const lines: string[] = [];
  const old = new Map(before.map((thing) => [thing.key, thing]));
  const now = new Set(after.map(({ key }) => key));
  for (const thing of after)
    if (!old.has(thing.key))
      lines.push(
        say(SURVEY_TEXTS.changedNewSighting, {
          name: thing.name,
          count: total(thing),
          page: thing.example,
        }),
      );
  for (const thing of before)
    if (!now.has(thing.key)) lines.push(say(SURVEY_TEXTS.changedGoneSighting, { name: thing.name }));
  for (const thing of after) {
    const was = old.get(thing.key);
    if (was) lines.push(...sectionLines(was, thing));
  }
  if (newPages.count > 0) lines.push(pagesLine('changedNewPages', newPages));
  if (gonePages.count > 0) lines.push(pagesLine('changedGonePages', gonePages));
  return lines;
}

function total({ sections }: SeenThing): number {
  return [...sections.values()].reduce((sum, count) => sum + count, 0);
}

function sectionLines(was: SeenThing, is: SeenThing): string[] {
  return [...new Set([...was.sections.keys(), ...is.sections.keys()])].sort().flatMap((section) => {
    const change = (is.sections.get(section) ?? 0) - (was.sections.get(section) ?? 0);
    if (change === 0) return [];
    return change > 0
      ? [say(SURVEY_TEXTS.changedMoreSighting, { name: is.name, count: change, section })]
      : [say(SURVEY_TEXTS.changedFewerSighting, { name: is.name, count: -change, section })];
  });
}

function pagesLine(
  text: 'changedNewPages' | 'changedGonePages',
  { count, examples }: { readonly count: number; readonly examples: readonly string[] },
): string {
  const named = examples.slice(0, MAX_NAMED).join(', ');
  const where =
    count > MAX_NAMED ? say(SURVEY_TEXTS.pagesAndMore, { pages: named, more: count - MAX_NAMED }) : named;
  return say(SURVEY_TEXTS[text], { count, where });
}

/** What is said where nothing differs. */
export function unchangedWords(number: number): string {
  return say(SURVEY_TEXTS.nothingChanged, { number });
}
