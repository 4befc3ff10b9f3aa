import { alterations } from '@pragmatica/core';
import { useMemo } from 'react';
import { SURVEY } from '../../texts/survey';

/** A code as it was written and as it arrives, in one: what was taken away and what was put in, to the character. */
export function AlteredCode({ ours, theirs }: { ours: string; theirs: string }) {
  const runs = useMemo(() => alterations(ours, theirs), [ours, theirs]);
  return (
    <figure className="overflow-hidden rounded-lg border border-line bg-raised">
      <figcaption className="flex flex-wrap gap-x-3 border-b border-line px-3 py-1.5 text-[13px] text-muted">
        <span className="flex-1">{SURVEY.changed}</span>
        <del className="rounded bg-danger-soft px-1 text-danger">{SURVEY.changedGone}</del>
        <ins className="rounded bg-primary-soft px-1 text-primary no-underline">{SURVEY.changedNew}</ins>
      </figcaption>
      <pre
        tabIndex={0}
        className="max-h-72 overflow-auto px-3 py-2 font-mono text-xs whitespace-pre-wrap [overflow-wrap:anywhere]"
      >
        {runs.map(({ kind, text }, index) =>
          kind === 'gone' ? (
            <del key={index} className="rounded bg-danger-soft text-danger">
              {text}
            </del>
          ) : kind === 'new' ? (
            <ins key={index} className="rounded bg-primary-soft text-primary no-underline">
              {text}
            </ins>
          ) : (
            <span key={index}>{text}</span>
          ),
        )}
      </pre>
    </figure>
  );
}
