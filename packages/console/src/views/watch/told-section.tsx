import { Plus, Send } from 'lucide-react';
import { useState } from 'react';
import { fieldErrorsOf } from '../../api/field-errors';
import { useAddWebhook, useRemoveWebhook, useTryNotices, type Watch } from '../../api/watch';
import { say } from '../../texts/say';
import { WATCH } from '../../texts/watch';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Field, FormError } from '../../ui/field';
import { Time } from '../../ui/time';
import { useCopy } from '../../ui/use-copy';
import { useToast } from '../../ui/toast';
import { Section } from '../visits/section';

/** Programs that are told, and people. */
export function ToldSection({ site, watch }: { site: string; watch: Watch }) {
  const [secret, setSecret] = useState<string>();
  const toast = useToast();
  const attempt = useTryNotices(site);
  const { webhooks, mailTo } = watch;
  const hasSomebody = webhooks.length + mailTo.length > 0;
  return (
    <Section title={WATCH.told} lead={WATCH.toldLead}>
      <div className="space-y-4">
        {!hasSomebody && <p className="text-sm text-muted">{WATCH.nobody}</p>}
        {hasSomebody && (
          <ul className="divide-y divide-line text-sm">
            {mailTo.map((address) => (
              <li key={address} className="py-2">
                {address}
              </li>
            ))}
            {webhooks.map((webhook) => (
              <WebhookLine key={webhook.id} site={site} webhook={webhook} />
            ))}
          </ul>
        )}
        <AddWebhook site={site} onSecret={setSecret} />
        {hasSomebody && (
          <Button
            needs="own"
            size="small"
            isBusy={attempt.isPending}
            onClick={() => attempt.run(undefined, () => toast({ tone: 'done', title: WATCH.testSent }))}
          >
            <Send className="size-3.5" aria-hidden /> {WATCH.test}
          </Button>
        )}
      </div>
      <SecretDialog secret={secret} onClose={() => setSecret(undefined)} />
    </Section>
  );
}

function WebhookLine({ site, webhook }: { site: string; webhook: Watch['webhooks'][number] }) {
  const [isOpen, setOpen] = useState(false);
  const remove = useRemoveWebhook(site);
  const { id, url, by, at } = webhook;
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 py-2">
      <span className="min-w-56 flex-1 font-mono text-[13px] break-all">{url}</span>
      <span className="text-[13px] text-muted">
        {by}, <Time at={at} />
      </span>
      <Button
        needs="own"
        size="small"
        look="quiet"
        aria-label={say(WATCH.removeWebhookOf, { url })}
        onClick={() => setOpen(true)}
      >
        {WATCH.removeWebhook}
      </Button>
      <Dialog
        title={WATCH.removeTitle}
        description={say(WATCH.removeText, { url })}
        isOpen={isOpen}
        onOpenChange={setOpen}
      >
        <DialogActions leave={WATCH.leave}>
          <Button look="danger" isBusy={remove.isPending} onClick={() => remove.run(id)}>
            {WATCH.removeWebhook}
          </Button>
        </DialogActions>
      </Dialog>
    </li>
  );
}

function AddWebhook({ site, onSecret }: { site: string; onSecret: (secret: string) => void }) {
  const [url, setUrl] = useState('');
  const add = useAddWebhook(site);
  const errors = fieldErrorsOf(add.error);
  return (
    <form
      className="flex flex-wrap items-start gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        add.run(url.trim(), ({ data }) => {
          setUrl('');
          onSecret(data.secret);
        });
      }}
    >
      <Field
        className="min-w-64 flex-1"
        label={WATCH.webhookUrl}
        type="url"
        required
        placeholder={WATCH.webhookBegins}
        value={url}
        hint={WATCH.webhookHint}
        error={errors.at('/url')}
        onChange={(event) => setUrl(event.target.value)}
      />
      <Button type="submit" needs="own" className="mt-6.5" isBusy={add.isPending}>
        <Plus className="size-4" aria-hidden /> {WATCH.addWebhook}
      </Button>
      {errors.isEmpty && <FormError error={add.error} />}
    </form>
  );
}

/** Shown once. */
function SecretDialog({ secret, onClose }: { secret: string | undefined; onClose: () => void }) {
  const copy = useCopy();
  return (
    <Dialog
      title={WATCH.secretTitle}
      description={WATCH.secretText}
      isOpen={secret !== undefined}
      onOpenChange={(isOpen) => !isOpen && onClose()}
    >
      <p className="rounded-md bg-paper p-3 font-mono text-[13px] break-all">{secret}</p>
      <DialogActions leave={WATCH.done}>
        <Button look="primary" onClick={() => copy(secret ?? '', WATCH.copiedNext)}>
          {WATCH.copy}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
