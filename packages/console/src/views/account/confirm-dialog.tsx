import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { confirmPassword, onConfirmation } from '../../api/client';
import { fieldErrorsOf } from '../../api/field-errors';
import { sessionQuery } from '../../api/queries';
import { ACCOUNT } from '../../texts/account';
import { say } from '../../texts/say';
import { Field } from '../../ui/field';
import { FormDialog } from '../../ui/form-dialog';
import { ConfirmElsewhere } from './confirm-elsewhere';

/** Asks once more who somebody is, where something matters too much for whoever finds the browser open. */
export function ConfirmDialog() {
  const [answer, setAnswer] = useState<(isConfirmed: boolean) => void>();
  const [password, setPassword] = useState('');
  const hasPassword = useQuery(sessionQuery).data?.hasPassword !== false;
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
      description={say(ACCOUNT.confirmText, { hasPassword: hasPassword ? 'yes' : 'no' })}
      isOpen={answer !== undefined}
      onOpenChange={(isOpen) => !isOpen && close(false)}
      onSubmit={() => confirm.mutate(password, { onSuccess: () => close(true) })}
      submit={hasPassword ? ACCOUNT.confirm : undefined}
      isBusy={confirm.isPending}
      isDisabled={password === ''}
      leave={ACCOUNT.cancel}
      error={errors.isEmpty ? confirm.error : undefined}
    >
      {hasPassword && (
        <Field
          label={ACCOUNT.yourPassword}
          type="password"
          autoComplete="current-password"
          required
          value={password}
          error={errors.at('/password')}
          onChange={(event) => setPassword(event.target.value)}
        />
      )}
      <ConfirmElsewhere onConfirmed={() => close(true)} />
    </FormDialog>
  );
}
