import type { ReactNode } from 'react';
import { cn } from './cn';
import { HelpLink } from './help-link';

interface LabelledProps {
  /** Of the control inside. */
  readonly id: string;
  readonly label: string;
  readonly hint?: ReactNode;
  /** Stands in the hint's place. */
  readonly error?: string | undefined;
  /** Its page under Help: `reach#consent`. */
  readonly help?: string | undefined;
  readonly className?: string | undefined;
  readonly children: ReactNode;
}

/** What every control of a form has: its label before it, its hint or its error after it. */
export function Labelled({ id, label, hint, error, help, className, children }: LabelledProps) {
  const note = error ?? hint;
  return (
    <div className={cn('space-y-1.5', className)}>
      <div className="flex items-center gap-1.5">
        <label htmlFor={id} className="block text-sm font-medium">
          {label}
        </label>
        {help !== undefined && <HelpLink to={help} subject={label} />}
      </div>
      {children}
      {note !== undefined && (
        <p
          id={`${id}-note`}
          className={cn('text-[13px]', error === undefined ? 'text-muted' : 'text-danger')}
        >
          {note}
        </p>
      )}
    </div>
  );
}
