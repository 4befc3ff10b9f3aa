import {
  containmentProblem,
  filledCode,
  placementKey,
  readCode,
  sourceRange,
  suggestParts,
  type EnvironmentName,
  type Field as SiteField,
  type Finding,
  type PageRules,
  type Placement,
  type Range,
  type SuggestedPart,
} from '@pragmatica/core';
import { CircleCheck, TriangleAlert } from 'lucide-react';
import { useDeferredValue, useEffect, useMemo } from 'react';
import { CodeEditor, type CodeMark } from '../../ui/code-editor';
import { Field, inputStyle } from '../../ui/field';
import { PlacementPicker } from './placement-picker';
import { RecognisedRecipe } from './recognised-recipe';
import { ReadingPanel } from './reading-panel';
import type { PartValue } from './snippet-value';
import { SNIPPET } from '../../texts/snippet';
import { say } from '../../texts/say';

interface PartEditorProps {
  site: string;
  /** On which pages the snippet runs. */
  pages: PageRules;
  part: PartValue;
  onChange: (part: PartValue) => void;
  /** Somebody has chosen where it goes. */
  onPlace: (placement: Placement) => void;
  error: string | undefined;
  /** The site's fields: code is read with their values in it. */
  fields: readonly SiteField[];
  /** Where it runs, and so which values it gets. */
  environment: EnvironmentName;
  /** The site for which a recipe is offered where there is one; left out for a snippet that is there already. */
  recipeSite?: string | undefined;
  /** What is found about this part. */
  findings: readonly Finding[];
  /** The key under which the findings know the part. */
  partKey: string;
  onSplit: ((parts: readonly SuggestedPart[]) => void) | undefined;
  /** Takes over the suggested placement by itself, until somebody chooses one. */
  followsSuggestion: boolean;
}

const SEVERITIES = { error: 'error', warning: 'warning', advice: 'info' } as const;

/** One piece of code with its place; what it is, and what is wrong with it, is said while it is typed. */
export function PartEditor({
  site,
  pages,
  part,
  onChange,
  onPlace,
  error,
  findings,
  partKey,
  onSplit,
  followsSuggestion,
  fields,
  environment,
  recipeSite,
}: PartEditorProps) {
  const code = useDeferredValue(part.code);
  const placement = useDeferredValue(part.placement);
  const statement = useDeferredValue(part.statement);
  const problem = useMemo(() => containmentProblem(code, placement), [code, placement]);
  const facts = useMemo(() => readCode(filledCode(code, fields, environment)), [code, fields, environment]);
  const pieces = useMemo(() => suggestParts(code, statement), [code, statement]);
  const suggested = pieces.length === 1 ? pieces[0] : undefined;
  const isEmpty = part.code.trim() === '';
  useEffect(() => {
    if (followsSuggestion && suggested && placementKey(suggested.placement) !== placementKey(part.placement))
      onChange({ ...part, placement: suggested.placement });
    // Only a new suggestion moves it, not every change of the part.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [suggested?.placement, followsSuggestion]);
  const marks = useMemo(
    () => marksOf(findings, partKey, (range) => sourceRange(code, fields, environment, range), code.length),
    [findings, partKey, code, fields, environment],
  );
  return (
    <div className="grid gap-5 md:grid-cols-[minmax(0,1fr)_15rem]">
      <div className="space-y-2">
        <CodeEditor
          label={SNIPPET.code}
          placeholder={SNIPPET.pasteCodeProvider}
          value={part.code}
          language={facts.language === 'javascript' ? 'javascript' : 'html'}
          marks={marks}
          onChange={(next) => onChange({ ...part, code: next })}
        />
        <div aria-live="polite" className="text-[13px]">
          {error !== undefined && <p className="text-danger">{error}</p>}
          {!isEmpty && problem && (
            <p className="flex gap-1.5 text-danger">
              <TriangleAlert className="mt-0.5 size-4 shrink-0" aria-hidden />{' '}
              <span>{say(SNIPPET.cannotPublishedLike, { message: problem.message })}</span>
            </p>
          )}
          {!isEmpty && !problem && (
            <p className="flex gap-1.5 text-good">
              <CircleCheck className="mt-0.5 size-4 shrink-0" aria-hidden /> {SNIPPET.leavesPageAround}
            </p>
          )}
        </div>
        <Field
          label={SNIPPET.whatProviderSays}
          placeholder={SNIPPET.pasteCodeJust}
          hint={SNIPPET.copySentenceIf}
          maxLength={2000}
          value={part.statement}
          onChange={(event) => onChange({ ...part, statement: event.target.value })}
        />
        {!isEmpty && recipeSite !== undefined && <RecognisedRecipe site={recipeSite} facts={facts} />}
        {!isEmpty && <ReadingPanel facts={facts} pieces={pieces} onSplit={onSplit} />}
      </div>
      <div className="space-y-4">
        <PlacementPicker
          placement={part.placement}
          suggested={suggested?.placement}
          because={suggested?.because}
          site={site}
          code={part.code}
          pages={pages}
          onChange={onPlace}
        />
        <label className="block space-y-1.5 text-sm font-medium">
          <span className="block">{SNIPPET.whenItRuns}</span>
          <select
            className={inputStyle}
            value={part.per}
            onChange={(event) => onChange({ ...part, per: event.target.value as PartValue['per'] })}
          >
            <option value="load">{SNIPPET.oncePerLoad}</option>
            <option value="view">{SNIPPET.onEveryView}</option>
          </select>
          {part.per === 'view' && (
            <span className="block text-[13px] font-normal text-muted">{SNIPPET.everyViewHint}</span>
          )}
        </label>
      </div>
    </div>
  );
}

/** What is found, at the places in the code that show it. What is about the whole code is told beside it. */
function marksOf(
  findings: readonly Finding[],
  partKey: string,
  toSource: (range: Range) => Range,
  length: number,
): CodeMark[] {
  return findings.flatMap(({ title, advice, severity, evidence }) =>
    evidence
      .filter(({ part }) => part === partKey)
      // Findings see the fields' values; the editor shows the fields.
      .map(({ range }) => toSource(range))
      .filter((range) => range.end - range.start < length)
      .map((range) => ({
        from: range.start,
        to: range.end,
        severity: SEVERITIES[severity],
        message: `${title}. ${advice}`,
      })),
  );
}
