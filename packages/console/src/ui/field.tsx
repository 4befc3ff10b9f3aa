import { useId, type ComponentProps, type ReactNode } from 'react';
import { cn } from './cn';

export const inputStyle =
  'w-full rounded-md border border-line-strong bg-raised px-3 py-2 text-sm text-ink aria-invalid:border-danger disabled:opacity-60';

type FieldProps = ComponentProps<'input'> & { label: string; hint?: ReactNode; error?: string | undefined };

/** A labelled text field with its hint and its error. */
export function Field({ label, hint, error, className, ...rest }: FieldProps) {
  const id = useId();
  return (
    <div className={cn('space-y-1.5', className)}>
      <label htmlFor={id} className="block text-sm font-medium">
        {label}
      </label>
      <input
        id={id}
        className={inputStyle}
        aria-invalid={error !== undefined || undefined}
        aria-describedby={error !== undefined || hint !== undefined ? `${id}-note` : undefined}
        {...rest}
      />
      {(error ?? hint) !== undefined && (
        <p
          id={`${id}-note`}
          className={cn('text-[13px]', error === undefined ? 'text-muted' : 'text-danger')}
        >
          {error ?? hint}
        </p>
      )}
    </div>
  );
}
