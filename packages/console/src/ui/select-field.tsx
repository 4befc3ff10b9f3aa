import { useId, type ReactNode } from 'react';
import { cn } from './cn';
import { inputStyle } from './field';

interface SelectFieldProps {
  readonly label: string;
  readonly value: string;
  readonly options: readonly (readonly [value: string, label: string])[];
  readonly onChange: (value: string) => void;
  readonly hint?: ReactNode;
  readonly className?: string;
}

/** A labelled choice of a few. */
export function SelectField({ label, value, options, onChange, hint, className }: SelectFieldProps) {
  const id = useId();
  return (
    <div className={cn('space-y-1.5', className)}>
      <label htmlFor={id} className="block text-sm font-medium">
        {label}
      </label>
      <select
        id={id}
        className={inputStyle}
        value={value}
        aria-describedby={hint === undefined ? undefined : `${id}-note`}
        onChange={(event) => onChange(event.target.value)}
      >
        {options.map(([one, name]) => (
          <option key={one} value={one}>
            {name}
          </option>
        ))}
      </select>
      {hint !== undefined && (
        <p id={`${id}-note`} className="text-[13px] text-muted">
          {hint}
        </p>
      )}
    </div>
  );
}
