import type { Change } from '@pragmatica/core';
import { CircleCheck, Send } from 'lucide-react';
import { useState } from 'react';
import { usePublish } from '../../api/changes';
import { Button } from '../../ui/button';
import { Dialog, DialogClose } from '../../ui/dialog';
import { Field } from '../../ui/field';
import { useToast } from '../../ui/toast';

interface NotLivePanelProps {
  site: string;
  draft: { readonly etag: string } | undefined;
  diff: { readonly from: string; readonly changes: readonly Change[] } | undefined;
}

/** What is saved but not live, in words, and the button that makes it live. */
export function NotLivePanel({ site, draft, diff }: NotLivePanelProps) {
  const [isOpen, setOpen] = useState(false);
  if (!diff || !draft) return null;
  if (diff.changes.length === 0) {
    return (
      <section
        aria-label="Live"
        className="flex gap-2.5 rounded-xl border border-line bg-surface p-4 text-sm"
      >
        <CircleCheck className="size-5 shrink-0 text-good" aria-hidden />
        <p>Visitors get what you see here: {diff.from}.</p>
      </section>
    );
  }
  return (
    <section aria-label="Not live yet" className="rounded-xl border border-signal/40 bg-signal-soft p-4">
      <h2 className="text-signal">Not live yet</h2>
      <ChangeList changes={diff.changes} />
      <Button look="signal" className="mt-3 w-full" onClick={() => setOpen(true)}>
        <Send className="size-4" aria-hidden /> Publish…
      </Button>
      <PublishDialog
        site={site}
        etag={draft.etag}
        changes={diff.changes}
        isOpen={isOpen}
        onOpenChange={setOpen}
      />
    </section>
  );
}

export function ChangeList({ changes }: { changes: readonly Change[] }) {
  return (
    <ul className="mt-1.5 list-disc space-y-1 pl-4 text-sm">
      {changes.map((change, index) => (
        <li key={index}>{change.message}</li>
      ))}
    </ul>
  );
}

interface PublishDialogProps {
  site: string;
  etag: string;
  changes: readonly Change[];
  isOpen: boolean;
  onOpenChange: (isOpen: boolean) => void;
}

function PublishDialog({ site, etag, changes, isOpen, onOpenChange }: PublishDialogProps) {
  const publish = usePublish(site);
  const toast = useToast();
  const [message, setMessage] = useState('');
  return (
    <Dialog
      title="Publish to all visitors"
      description={<ChangeList changes={changes} />}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
    >
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          publish.run({ etag, message }, ({ data }) => {
            toast({
              tone: 'done',
              title: `Release ${data.number} is live`,
              text: 'Every page load from now on gets it.',
            });
            setMessage('');
            onOpenChange(false);
          });
        }}
      >
        <Field
          label="What does this change?"
          placeholder="Chat on every page"
          hint="A line for those who look for it later, you included."
          required
          maxLength={120}
          value={message}
          onChange={(event) => setMessage(event.target.value)}
        />
        <div className="flex justify-end gap-2">
          <DialogClose asChild>
            <Button look="quiet">Not yet</Button>
          </DialogClose>
          <Button type="submit" look="signal" isBusy={publish.isPending}>
            Publish now
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
