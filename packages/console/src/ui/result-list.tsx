import { CircleCheck, CircleX } from 'lucide-react';
import type { ReactNode } from 'react';
import { COMMON } from '../texts/common';

interface Result {
  readonly key: string;
  readonly title: ReactNode;
  readonly isDone: boolean;
  readonly message: string;
}

/** What became of each of several things. */
export function ResultList({ results }: { results: readonly Result[] }) {
  return (
    <ul className="space-y-2 text-sm" aria-live="polite">
      {results.map(({ key, title, isDone, message }) => (
        <li key={key} className="flex gap-2">
          {isDone ? (
            <CircleCheck className="mt-0.5 size-4 shrink-0 text-good" aria-label={COMMON.done} />
          ) : (
            <CircleX className="mt-0.5 size-4 shrink-0 text-danger" aria-label={COMMON.notDone} />
          )}
          <span>
            {title}: {message}
          </span>
        </li>
      ))}
    </ul>
  );
}
