import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useChangeOf } from '../../api/change';
import { api } from '../../api/client';
import { fieldErrorsOf } from '../../api/field-errors';
import { sessionQuery } from '../../api/queries';
import { ACCOUNT } from '../../texts/account';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Field, FormError } from '../../ui/field';
import { Section } from '../../ui/section';
import { useToast } from '../../ui/toast';

/** Where mails to somebody go. */
export function MailSection() {
  const member = useQuery(sessionQuery).data;
  return (
    <Section title={ACCOUNT.mailTitle} text={ACCOUNT.mailText}>
      {member && <MailForm mail={member.mail ?? ''} />}
    </Section>
  );
}

function MailForm({ mail }: { mail: string }) {
  const [typed, setTyped] = useState(mail);
  const toast = useToast();
  const client = useQueryClient();
  const save = useChangeOf(
    'members',
    async (to: string) => (await api.call('editAccount', { body: { mail: to === '' ? null : to } })).data,
    (member) => {
      client.setQueryData(sessionQuery.queryKey, member);
      const text =
        member.mail === null ? ACCOUNT.mailSavedNone : say(ACCOUNT.mailSavedTo, { mail: member.mail });
      toast({ tone: 'done', title: ACCOUNT.mailSaved, text });
    },
  );
  const errors = fieldErrorsOf(save.error);
  return (
    <form
      className="max-w-sm space-y-3"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate(typed.trim());
      }}
    >
      <Field
        label={ACCOUNT.mailAddress}
        hint={ACCOUNT.mailHint}
        type="email"
        autoComplete="email"
        value={typed}
        error={errors.at('/mail')}
        onChange={(event) => setTyped(event.target.value)}
      />
      <Button type="submit" isBusy={save.isPending} disabled={typed.trim() === mail}>
        {ACCOUNT.mailSave}
      </Button>
      {errors.isEmpty && <FormError error={save.error} />}
    </form>
  );
}
