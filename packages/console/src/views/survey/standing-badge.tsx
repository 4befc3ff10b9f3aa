import type { Sighting } from '../../api/surveys';
import { SURVEY } from '../../texts/survey';
import { cn } from '../../ui/cn';

export type Standing = Sighting['standing'];

export const STANDING_LABELS: Readonly<Record<Standing, string>> = {
  ours: SURVEY.ours,
  copy: SURVEY.copy,
  altered: SURVEY.altered,
  foreign: SURVEY.foreign,
};

const LOOKS: Readonly<Record<Standing, string>> = {
  ours: 'bg-primary-soft text-primary',
  copy: 'bg-danger-soft text-danger',
  altered: 'bg-danger-soft text-danger',
  foreign: 'bg-signal-soft text-signal',
};

/** How a thing in the pages stands to the snippets. */
export function StandingBadge({ standing, className }: { standing: Standing; className?: string }) {
  return (
    <span
      className={cn(
        'rounded-full px-2 py-0.5 text-xs font-medium whitespace-nowrap',
        LOOKS[standing],
        className,
      )}
    >
      {STANDING_LABELS[standing]}
    </span>
  );
}

export const KIND_LABELS: Readonly<Record<Sighting['kind'], string>> = {
  script: SURVEY.kindScript,
  data: SURVEY.kindData,
  style: SURVEY.kindStyle,
  frame: SURVEY.kindFrame,
  pixel: SURVEY.kindPixel,
  element: SURVEY.kindElement,
};
