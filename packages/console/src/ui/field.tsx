import { useId, type ComponentProps, type ReactNode } from 'react';
import { Labelled } from './labelled';
import { ProblemHelp } from './problem-help';

export const inputStyle =
  'w-full rounded-md border border-line-strong bg-raised px-3 py-2 text-sm text-ink aria-invalid:border-danger disabled:opacity-60';

type FieldProps = ComponentProps<'input'> & {
  label: string;
  hint?: ReactNode;
  error?: string | undefined;
  help?: string;
};

/** A labelled text field with its hint and its error. */
export function Field({ label, hint, error, help, className, ...rest }: FieldProps) {
  const id = useId();
  return (
    <Labelled id={id} label={label} hint={hint} error={error} help={help} className={className}>
      <input
        id={id}
        className={inputStyle}
        aria-invalid={error !== undefined || undefined}
        aria-describedby={error !== undefined || hint !== undefined ? `${id}-note` : undefined}
        {...rest}
      />
    </Labelled>
  );
}

/** What went wrong and belongs to no field. */
export function FormError({ error }: { error: Error | null | undefined }) {
  if (!error) return null;
  return (
    <p role="alert" className="text-sm text-danger">
      {error.message} <ProblemHelp error={error} />
    </p>
  );
}
