import { MIN_PASSWORD_LENGTH } from '@pragmatica/contract';
import { useState } from 'react';
import { useAccountChange } from '../../api/account';
import { api } from '../../api/client';
import { fieldErrorsOf } from '../../api/field-errors';
import { ACCOUNT } from '../../texts/account';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { useToast } from '../../ui/toast';
import { Section } from './section';

const EMPTY = { current: '', new: '', again: '', endTokens: false };

/** A new password, whenever somebody wants one. */
export function PasswordSection() {
  const [typed, setTyped] = useState(EMPTY);
  const toast = useToast();
  const change = useAccountChange((body: { current: string; new: string; endTokens: boolean }) =>
    api.call('changePassword', { body }),
  );
  const set = (part: Partial<typeof EMPTY>): void => setTyped((before) => ({ ...before, ...part }));
  const differs = typed.again !== '' && typed.again !== typed.new;
  return (
    <Section title={ACCOUNT.passwordTitle} text={ACCOUNT.passwordText}>
      <form
        className="max-w-sm space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate(
            { current: typed.current, new: typed.new, endTokens: typed.endTokens },
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
          error={fieldErrorsOf(change.error).at('/current') ?? change.error?.message}
        />
        <Field
          label={ACCOUNT.new}
          type="password"
          autoComplete="new-password"
          required
          minLength={MIN_PASSWORD_LENGTH}
          hint={say(ACCOUNT.minLength, { minLength: MIN_PASSWORD_LENGTH })}
          value={typed.new}
          onChange={(event) => set({ new: event.target.value })}
        />
        <Field
          label={ACCOUNT.again}
          type="password"
          autoComplete="new-password"
          required
          value={typed.again}
          onChange={(event) => set({ again: event.target.value })}
          error={differs ? ACCOUNT.differs : undefined}
        />
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
          disabled={
            typed.current === '' || typed.new.length < MIN_PASSWORD_LENGTH || typed.again !== typed.new
          }
        >
          {ACCOUNT.change}
        </Button>
      </form>
    </Section>
  );
}
