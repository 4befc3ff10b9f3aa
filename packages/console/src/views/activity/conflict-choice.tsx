import type { Undone } from '@pragmatica/contract';
import { RadioGroup } from 'radix-ui';
import { ACTIVITY } from '../../texts/activity';
import { say } from '../../texts/say';

export type Choice = 'now' | 'before';

interface ConflictChoiceProps {
  readonly conflict: Undone['conflicts'][number];
  readonly choice: Choice | undefined;
  readonly onChange: (choice: Choice) => void;
}

/** Something that two people changed: what is there now, or what was there before. */
export function ConflictChoice({ conflict: { what, now, before }, choice, onChange }: ConflictChoiceProps) {
  const words: Record<Choice, string> = {
    now: say(ACTIVITY.now, { value: now }),
    before: say(ACTIVITY.then, { value: before }),
  };
  return (
    <fieldset className="rounded-lg border border-line p-3">
      <legend className="px-1 text-sm">{what}</legend>
      <RadioGroup.Root
        value={choice ?? null}
        onValueChange={(next) => onChange(next as Choice)}
        className="space-y-1.5 text-sm"
        aria-label={what}
      >
        {(['now', 'before'] as const).map((one) => (
          <label key={one} className="flex items-start gap-2 [overflow-wrap:anywhere]">
            <RadioGroup.Item
              value={one}
              className="mt-0.5 grid size-4 shrink-0 place-items-center rounded-full border border-line-strong bg-raised"
            >
              <RadioGroup.Indicator className="size-2 rounded-full bg-primary" />
            </RadioGroup.Item>
            {words[one]}
          </label>
        ))}
      </RadioGroup.Root>
    </fieldset>
  );
}
