import { Check } from 'lucide-react';
import type { ReactNode } from 'react';
import { START } from '../../texts/start';
import { cn } from '../../ui/cn';

interface StepProps {
  readonly number: number;
  readonly isDone?: boolean;
  readonly children: ReactNode;
}

/** One of the first steps of a site, with its number beside it, or a tick once it is done. */
export function Step({ number, isDone = false, children }: StepProps) {
  return (
    <li className="relative sm:pl-11">
      <span
        className={cn(
          'mb-1.5 grid size-7 place-items-center rounded-full text-[13px] font-semibold sm:absolute sm:top-3.5 sm:left-0 sm:mb-0',
          isDone ? 'bg-good text-surface' : 'bg-primary-soft text-primary',
        )}
      >
        {isDone ? <Check className="size-4" role="img" aria-label={START.done} /> : number}
      </span>
      {children}
    </li>
  );
}
