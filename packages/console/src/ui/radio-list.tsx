import { RadioGroup } from 'radix-ui';

interface RadioListProps<Value extends string> {
  readonly label: string;
  readonly options: readonly { readonly value: Value; readonly text: string }[];
  /** Undefined while nothing is chosen. */
  readonly value: Value | undefined;
  readonly onChange: (value: Value) => void;
}

/** One of a few things, each on a line of its own. */
export function RadioList<Value extends string>({ label, options, value, onChange }: RadioListProps<Value>) {
  return (
    <RadioGroup.Root
      value={value ?? null}
      onValueChange={(next) => onChange(next as Value)}
      className="space-y-1.5 text-sm"
      aria-label={label}
    >
      {options.map(({ value: one, text }) => (
        <label key={one} className="flex items-start gap-2 [overflow-wrap:anywhere]">
          <RadioGroup.Item
            value={one}
            className="mt-0.5 grid size-4 shrink-0 place-items-center rounded-full border border-line-strong bg-raised"
          >
            <RadioGroup.Indicator className="size-2 rounded-full bg-primary" />
          </RadioGroup.Item>
          {text}
        </label>
      ))}
    </RadioGroup.Root>
  );
}
