import type { Undone } from '@pragmatica/contract';
import { ACTIVITY } from '../../texts/activity';
import { say } from '../../texts/say';
import { RadioList } from '../../ui/radio-list';

export type Choice = 'now' | 'before';

interface ConflictChoiceProps {
  readonly conflict: Undone['conflicts'][number];
  readonly choice: Choice | undefined;
  readonly onChange: (choice: Choice) => void;
}

/** Something that two people changed: what is there now, or what was there before. */
export function ConflictChoice({ conflict: { what, now, before }, choice, onChange }: ConflictChoiceProps) {
  const options = [
    { value: 'now' as const, text: say(ACTIVITY.now, { value: now }) },
    { value: 'before' as const, text: say(ACTIVITY.then, { value: before }) },
  ];
  return (
    <fieldset className="rounded-lg border border-line p-3">
      <legend className="px-1 text-sm">{what}</legend>
      <RadioList label={what} options={options} value={choice} onChange={onChange} />
    </fieldset>
  );
}
