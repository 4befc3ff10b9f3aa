import { useState } from 'react';
import { useChangeOf } from '../../api/change';
import { api } from '../../api/client';
import { fieldErrorsOf } from '../../api/field-errors';
import { ACCOUNT } from '../../texts/account';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { useToast } from '../../ui/toast';
import { Section } from '../../ui/section';
import { isChosen, NewPasswordFields, NO_PASSWORD } from '../sign-in/new-password-fields';

const EMPTY = { current: '', ...NO_PASSWORD, endTokens: false };

/** A new password, whenever somebody wants one. */
export function PasswordSection() {
  const [typed, setTyped] = useState(EMPTY);
  const toast = useToast();
  const change = useChangeOf('account', (body: { current: string; new: string; endTokens: boolean }) =>
    api.call('changePassword', { body }),
  );
  const errors = fieldErrorsOf(change.error);
  const refused = { current: errors.at('/current'), new: errors.at('/new') };
  const set = (part: Partial<typeof EMPTY>): void => setTyped((before) => ({ ...before, ...part }));
  return (
    <Section title={ACCOUNT.passwordTitle} text={ACCOUNT.passwordText}>
      <form
        className="max-w-sm space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate(
            { current: typed.current, new: typed.chosen, endTokens: typed.endTokens },
            {
              onSuccess: () => {
                setTyped(EMPTY);
                toast({ tone: 'done', title: ACCOUNT.changed, text: ACCOUNT.changedText });
              },
            },
          );
        }}
      >
        <Field
          label={ACCOUNT.current}
          type="password"
          autoComplete="current-password"
          required
          value={typed.current}
          onChange={(event) => set({ current: event.target.value })}
          error={refused.new === undefined ? (refused.current ?? change.error?.message) : undefined}
        />
        <NewPasswordFields value={typed} onChange={set} error={refused.new} />
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={typed.endTokens}
            onChange={(event) => set({ endTokens: event.target.checked })}
            className="size-4 accent-(--primary)"
          />
          {ACCOUNT.endTokens}
        </label>
        <Button type="submit" isBusy={change.isPending} disabled={typed.current === '' || !isChosen(typed)}>
          {ACCOUNT.change}
        </Button>
      </form>
    </Section>
  );
}
