import type { TroubleAnswerResource } from '@pragmatica/contract';
import { CircleCheck } from 'lucide-react';
import { Link } from 'react-router';
import { VISITS } from '../../texts/visits';
import { CauseLines } from './problem-list';

/** What is wrong on a page, each with who does it. */
export function TroubleAnswer({ site, answer }: { site: string; answer: TroubleAnswerResource }) {
  const { isWell, sentence, troubles } = answer;
  if (troubles.length === 0)
    return (
      <p className="flex gap-2 rounded-xl border border-line bg-surface p-4 text-sm">
        {isWell && <CircleCheck className="size-5 shrink-0 text-good" aria-hidden />} {sentence}
      </p>
    );
  return (
    <ul aria-label={VISITS.answer} className="space-y-3">
      {troubles.map(({ kind, message, advice, who, evidence, culprits }) => (
        <li key={message} className="space-y-1.5 rounded-xl border border-danger/40 bg-surface p-4 text-sm">
          <p className="text-base font-semibold">{message}</p>
          <span className="inline-block rounded-full bg-danger-soft px-2 py-0.5 text-xs font-medium text-danger">
            {VISITS.kinds[kind]}
          </span>
          <CauseLines cause={{ id: kind, message, advice, who, evidence }} />
          {culprits.map((key) => (
            <Link
              key={key}
              to={`/sites/${site}/snippets/${key}`}
              className="mr-3 text-primary hover:underline"
            >
              {key}
            </Link>
          ))}
        </li>
      ))}
    </ul>
  );
}
