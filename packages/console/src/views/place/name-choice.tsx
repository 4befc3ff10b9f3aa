import type { ElementNamesResource } from '@pragmatica/contract';
import { TriangleAlert } from 'lucide-react';
import { PLACE } from '../../texts/place';
import { say } from '../../texts/say';

const NAMED_PAGES = 3;

interface NameChoiceProps {
  readonly names: ElementNamesResource;
  readonly chosen: string;
  readonly onChoose: (selector: string) => void;
}

/** The selectors that name an element, and on how many pages each holds. */
export function NameChoice({ names, chosen, onChoose }: NameChoiceProps) {
  const { choices, looked, reason } = names;
  if (choices.length === 0)
    return (
      <div role="alert" className="flex gap-2 rounded-lg bg-warn-soft p-3 text-sm">
        <TriangleAlert className="mt-0.5 size-4 shrink-0 text-warn" aria-hidden />
        <p>
          <span className="font-medium">{PLACE.cannot}.</span> {reason} {PLACE.cannotAdvice}
        </p>
      </div>
    );
  const missing = choices.find(({ selector }) => selector === chosen)?.missingOn ?? [];
  return (
    <fieldset className="space-y-2">
      <legend className="text-sm font-medium">{PLACE.names}</legend>
      {choices.map(({ selector, holdsOn }) => (
        <label key={selector} className="flex items-start gap-2 text-sm">
          <input
            type="radio"
            name="selector"
            className="mt-1"
            checked={selector === chosen}
            onChange={() => onChoose(selector)}
          />
          <span className="min-w-0">
            <code className="break-words">{selector}</code>
            <span className="block text-[13px] text-muted">
              {say(PLACE.holdsOn, { with: holdsOn.length, count: looked })}
            </span>
          </span>
        </label>
      ))}
      {missing.length > 0 && (
        <p className="text-[13px] text-warn">
          {say(PLACE.missing, {
            pages: missing.slice(0, NAMED_PAGES),
            more: Math.max(0, missing.length - NAMED_PAGES),
          })}
        </p>
      )}
    </fieldset>
  );
}
