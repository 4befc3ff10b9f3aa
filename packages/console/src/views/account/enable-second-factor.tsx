import { useState } from 'react';
import { useChangeOf } from '../../api/change';
import { api } from '../../api/client';
import { fieldErrorsOf } from '../../api/field-errors';
import { ACCOUNT } from '../../texts/account';
import { Button } from '../../ui/button';
import { Field, FormError } from '../../ui/field';
import { QrCode } from '../../ui/qr-code';

interface EnableSecondFactorProps {
  readonly proposed: { readonly secret: string; readonly address: string };
  readonly onDone: (codes: readonly string[]) => void;
  readonly onLeave: () => void;
}

/** A code to scan, and the first code that proves that it was. */
export function EnableSecondFactor({ proposed, onDone, onLeave }: EnableSecondFactorProps) {
  const { secret, address } = proposed;
  const [code, setCode] = useState('');
  const enable = useChangeOf(
    'account',
    async () => (await api.call('enableSecondFactor', { body: { secret, code } })).data.codes,
    onDone,
  );
  const errors = fieldErrorsOf(enable.error);
  return (
    <form
      className="flex flex-wrap gap-5"
      onSubmit={(event) => {
        event.preventDefault();
        enable.mutate(undefined);
      }}
    >
      <QrCode text={address} label={ACCOUNT.qrCode} />
      <div className="min-w-60 flex-1 space-y-3">
        <p>{ACCOUNT.scan}</p>
        <p className="text-[13px] text-muted">
          {ACCOUNT.orType}{' '}
          <code className="font-mono [overflow-wrap:anywhere]">{secret.match(/.{4}/g)!.join(' ')}</code>
        </p>
        <Field
          label={ACCOUNT.firstCode}
          inputMode="numeric"
          autoComplete="one-time-code"
          required
          maxLength={8}
          value={code}
          error={errors.at('/code')}
          onChange={(event) => setCode(event.target.value)}
        />
        <FormError error={errors.isEmpty ? enable.error : undefined} />
        <div className="flex flex-wrap gap-2">
          <Button type="submit" look="primary" isBusy={enable.isPending} disabled={code.trim() === ''}>
            {ACCOUNT.secondEnable}
          </Button>
          <Button look="quiet" onClick={onLeave}>
            {ACCOUNT.cancel}
          </Button>
        </div>
      </div>
    </form>
  );
}
