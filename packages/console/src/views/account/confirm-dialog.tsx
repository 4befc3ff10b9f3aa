import { useMutation } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { confirmPassword, onConfirmation } from '../../api/client';
import { fieldErrorsOf } from '../../api/field-errors';
import { ACCOUNT } from '../../texts/account';
import { Field } from '../../ui/field';
import { FormDialog } from '../../ui/form-dialog';

/** Asks for the password where something matters too much for whoever finds the browser open. */
export function ConfirmDialog() {
  const [answer, setAnswer] = useState<(isConfirmed: boolean) => void>();
  const [password, setPassword] = useState('');
  const confirm = useMutation({ mutationFn: confirmPassword });
  useEffect(() => onConfirmation(() => new Promise((resolve) => setAnswer(() => resolve))), []);
  const close = (isConfirmed: boolean): void => {
    answer?.(isConfirmed);
    setAnswer(undefined);
    setPassword('');
    confirm.reset();
  };
  const errors = fieldErrorsOf(confirm.error);
  return (
    <FormDialog
      title={ACCOUNT.confirmTitle}
      description={ACCOUNT.confirmText}
      isOpen={answer !== undefined}
      onOpenChange={(isOpen) => !isOpen && close(false)}
      onSubmit={() => confirm.mutate(password, { onSuccess: () => close(true) })}
      submit={ACCOUNT.confirm}
      isBusy={confirm.isPending}
      isDisabled={password === ''}
      leave={ACCOUNT.cancel}
      error={errors.isEmpty ? confirm.error : undefined}
    >
      <Field
        label={ACCOUNT.yourPassword}
        type="password"
        autoComplete="current-password"
        required
        value={password}
        error={errors.at('/password')}
        onChange={(event) => setPassword(event.target.value)}
      />
    </FormDialog>
  );
}
