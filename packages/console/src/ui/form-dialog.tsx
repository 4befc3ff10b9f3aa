import type { ReactNode } from 'react';
import { Button } from './button';
import { Dialog, DialogActions, type DialogProps } from './dialog';
import { FormError } from './field';

interface FormDialogProps extends DialogProps {
  readonly onSubmit: () => void;
  /** What the button that does it says; without it there is none. */
  readonly submit: ReactNode;
  readonly look?: 'primary' | 'danger' | 'signal';
  readonly isBusy: boolean;
  readonly isDisabled?: boolean;
  /** What the button that changes nothing says. */
  readonly leave: string;
  /** What went wrong and belongs to no field. */
  readonly error?: Error | null | undefined;
}

/** A window that asks for something, and does it. */
export function FormDialog({
  onSubmit,
  submit,
  look = 'primary',
  isBusy,
  isDisabled,
  leave,
  error,
  children,
  ...dialog
}: FormDialogProps) {
  return (
    <Dialog {...dialog}>
      <form
        className="space-y-4"
        autoComplete="off"
        onSubmit={(event) => {
          event.preventDefault();
          onSubmit();
        }}
      >
        {children}
        <FormError error={error} />
        <DialogActions leave={leave}>
          {submit !== undefined && (
            <Button type="submit" look={look} isBusy={isBusy} disabled={isDisabled}>
              {submit}
            </Button>
          )}
        </DialogActions>
      </form>
    </Dialog>
  );
}
