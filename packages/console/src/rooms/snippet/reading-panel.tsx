import {
  factWords,
  placementKey,
  placementWords,
  readCode,
  suggestParts,
  type SuggestedPart,
} from '@pragmatica/core';
import { CornerDownRight, Split } from 'lucide-react';
import { useDeferredValue, useMemo } from 'react';
import { Button } from '../../ui/button';
import type { PartValue } from './snippet-form';

interface ReadingPanelProps {
  readonly part: PartValue;
  readonly onPlace: (placement: PartValue['placement']) => void;
  /** Keeps the code as several parts; left out where the snippet has several already. */
  readonly onSplit: ((parts: readonly SuggestedPart[]) => void) | undefined;
}

/** What the pasted code is, in words, while it is typed; and where it should go. */
export function ReadingPanel({ part, onPlace, onSplit }: ReadingPanelProps) {
  const code = useDeferredValue(part.code);
  const reading = useMemo(
    () => (code.trim() === '' ? undefined : { words: factWords(readCode(code)), parts: suggestParts(code) }),
    [code],
  );
  if (!reading) return null;
  const [suggested, ...others] = reading.parts;
  const isElsewhere =
    others.length === 0 && suggested && placementKey(suggested.placement) !== placementKey(part.placement);
  return (
    <section
      aria-label="What this code is"
      className="mt-4 space-y-3 rounded-lg border border-line bg-raised p-4"
    >
      <dl className="grid gap-x-5 gap-y-2 text-sm sm:grid-cols-[9rem_minmax(0,1fr)]">
        {reading.words.map(({ title, lines }) => (
          <div key={title} className="contents">
            <dt className="font-medium text-muted">{title}</dt>
            <dd className="space-y-1">
              {lines.map((line, index) => (
                <p key={index} className="[overflow-wrap:anywhere]">
                  {line}
                </p>
              ))}
            </dd>
          </div>
        ))}
      </dl>
      {others.length > 0 && onSplit && (
        <div className="flex flex-wrap items-center gap-3 border-t border-line pt-3 text-sm">
          <p className="min-w-52 flex-1">
            These are {reading.parts.length} pieces that belong at different places:{' '}
            {reading.parts.map(({ placement }) => placementWords(placement)).join(', and ')}.
          </p>
          <Button size="small" look="primary" onClick={() => onSplit(reading.parts)}>
            <Split className="size-3.5" aria-hidden /> Keep each at its place
          </Button>
        </div>
      )}
      {isElsewhere && (
        <div className="flex flex-wrap items-center gap-3 border-t border-line pt-3 text-sm">
          <p className="min-w-52 flex-1">
            Best {placementWords(suggested.placement)}. {suggested.because}
          </p>
          <Button size="small" look="primary" onClick={() => onPlace(suggested.placement)}>
            <CornerDownRight className="size-3.5" aria-hidden /> Place it there
          </Button>
        </div>
      )}
    </section>
  );
}
