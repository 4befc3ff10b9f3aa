import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useChangeOf } from '../../api/change';
import { api } from '../../api/client';
import { sessionQuery } from '../../api/queries';
import { fieldErrorsOf } from '../../api/field-errors';
import { ACCOUNT } from '../../texts/account';
import { Button } from '../../ui/button';
import { Field, FormError } from '../../ui/field';
import { useToast } from '../../ui/toast';
import { Section } from '../../ui/section';
import { isChosen, NewPasswordFields, NO_PASSWORD } from '../sign-in/new-password-fields';

const EMPTY = { current: '', ...NO_PASSWORD, endTokens: false };

/** A new password, whenever somebody wants one. */
export function PasswordSection() {
  const [typed, setTyped] = useState(EMPTY);
  const toast = useToast();
  const client = useQueryClient();
  const isFirst = useQuery(sessionQuery).data?.hasPassword === false;
  const change = useChangeOf(
    'account',
    async (body: { current?: string; new: string; endTokens: boolean }) =>
      (await api.call('changePassword', { body })).data,
    (member) => client.setQueryData(sessionQuery.queryKey, member),
  );
  const errors = fieldErrorsOf(change.error);
  const refused = { current: errors.at('/current'), new: errors.at('/new') };
  const set = (part: Partial<typeof EMPTY>): void => setTyped((before) => ({ ...before, ...part }));
  return (
    <Section title={ACCOUNT.passwordTitle} text={isFirst ? ACCOUNT.noPasswordText : ACCOUNT.passwordText}>
      <form
        className="max-w-sm space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate(
            {
              ...(isFirst ? {} : { current: typed.current }),
              ...{ new: typed.chosen, endTokens: typed.endTokens },
            },
            {
              onSuccess: () => {
                setTyped(EMPTY);
                toast({ tone: 'done', title: ACCOUNT.changed, text: ACCOUNT.changedText });
              },
            },
          );
        }}
      >
        {!isFirst && (
          <Field
            label={ACCOUNT.current}
            type="password"
            autoComplete="current-password"
            required
            value={typed.current}
            onChange={(event) => set({ current: event.target.value })}
            error={refused.new === undefined ? (refused.current ?? change.error?.message) : undefined}
          />
        )}
        <NewPasswordFields value={typed} onChange={set} error={refused.new} />
        {isFirst && refused.new === undefined && <FormError error={change.error} />}
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={typed.endTokens}
            onChange={(event) => set({ endTokens: event.target.checked })}
            className="size-4 accent-(--primary)"
          />
          {ACCOUNT.endTokens}
        </label>
        <Button
          type="submit"
          isBusy={change.isPending}
          disabled={(!isFirst && typed.current === '') || !isChosen(typed)}
        >
          {isFirst ? ACCOUNT.choose : ACCOUNT.change}
        </Button>
      </form>
    </Section>
  );
}
