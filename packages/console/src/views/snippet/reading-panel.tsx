import { factWords, placementWords, type Facts, type SuggestedPart } from '@pragmatica/core';
import { Split } from 'lucide-react';
import { useMemo } from 'react';
import { Button } from '../../ui/button';
import { SNIPPET } from '../../texts/snippet';
import { say } from '../../texts/say';

interface ReadingPanelProps {
  readonly facts: Facts;
  /** The parts that the code is best kept in. */
  readonly pieces: readonly SuggestedPart[];
  /** Keeps the code as several parts; left out where the snippet has several already. */
  readonly onSplit: ((parts: readonly SuggestedPart[]) => void) | undefined;
}

/** What the pasted code is, in words, while it is typed. */
export function ReadingPanel({ facts, pieces, onSplit }: ReadingPanelProps) {
  const words = useMemo(() => factWords(facts), [facts]);
  return (
    <section
      aria-label={SNIPPET.whatCode}
      className="mt-4 space-y-3 rounded-lg border border-line bg-raised p-4"
    >
      <dl className="grid gap-x-5 gap-y-2 text-sm sm:grid-cols-[9rem_minmax(0,1fr)]">
        {words.map(({ title, lines }) => (
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
      {pieces.length > 1 && onSplit && (
        <div className="flex flex-wrap items-center gap-3 border-t border-line pt-3 text-sm">
          <p className="min-w-52 flex-1">
            {say(SNIPPET.theseCountPieces, {
              count: pieces.length,
              pieces: pieces.map(({ placement }) => placementWords(placement)).join(', and '),
            })}
          </p>
          <Button size="small" look="primary" onClick={() => onSplit(pieces)}>
            <Split className="size-3.5" aria-hidden /> {SNIPPET.keepEachPlace}
          </Button>
        </div>
      )}
    </section>
  );
}
