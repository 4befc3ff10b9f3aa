import { useId, type ReactNode } from 'react';
import { inputStyle } from './field';
import { Labelled } from './labelled';

interface SelectFieldProps {
  readonly label: string;
  readonly value: string;
  /** With its language where a label is in another one than the page. */
  readonly options: readonly (readonly [value: string, label: string, lang?: string])[];
  readonly onChange: (value: string) => void;
  readonly hint?: ReactNode;
  /** Its page under Help: `reach#consent`. */
  readonly help?: string;
  readonly className?: string;
}

/** A labelled choice of a few. */
export function SelectField({ label, value, options, onChange, hint, help, className }: SelectFieldProps) {
  const id = useId();
  return (
    <Labelled id={id} label={label} hint={hint} help={help} className={className}>
      <select
        id={id}
        className={inputStyle}
        value={value}
        aria-describedby={hint === undefined ? undefined : `${id}-note`}
        onChange={(event) => onChange(event.target.value)}
      >
        {options.map(([one, name, lang]) => (
          <option key={one} value={one} lang={lang}>
            {name}
          </option>
        ))}
      </select>
    </Labelled>
  );
}
