import type { OpenFindingResource } from '@pragmatica/contract';
import { isWaivable, type Change } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { CircleCheck, TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { usePublish } from '../../api/mutations';
import { findingsQuery, newFindingsQuery } from '../../api/queries';
import { cn } from '../../ui/cn';
import { DialogClose } from '../../ui/dialog';
import { FormDialog } from '../../ui/form-dialog';
import { Field } from '../../ui/field';
import { useToast } from '../../ui/toast';
import { ChangeList } from './change-list';
import { STRIP } from '../../texts/strip';
import { say } from '../../texts/say';

interface PublishDialogProps {
  site: string;
  etag: string;
  changes: readonly Change[];
  /** What somebody has said of it already. */
  suggested: string;
  isOpen: boolean;
  onOpenChange: (isOpen: boolean) => void;
}

/** What would go live, what the checks newly find in it, and the message under which it is kept. */
export function PublishDialog({ site, etag, changes, suggested, isOpen, onOpenChange }: PublishDialogProps) {
  const publish = usePublish(site);
  const toast = useToast();
  const [message, setMessage] = useState(suggested);
  const [force, setForce] = useState('');
  const all = useQuery({ ...findingsQuery(site), enabled: isOpen });
  const fresh = useQuery({ ...newFindingsQuery(site), enabled: isOpen });
  const errors = all.data?.items.filter(({ severity }) => severity === 'error') ?? [];
  const breaking = errors.find((finding) => !isWaivable(finding));
  return (
    <FormDialog
      title={STRIP.publishAllVisitors}
      description={<WhatGoesLive changes={changes} />}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
      onSubmit={() => {
        const body = { message, ...(errors.length > 0 ? { force } : {}) };
        publish.run({ etag, ...body }, ({ data }) => {
          toast({
            tone: 'done',
            title: say(STRIP.releaseNumberLive, { number: data.number }),
            text:
              data.meanwhile.length === 0
                ? STRIP.everyPageLoad
                : say(STRIP.changedDraftMeanwhile, { meanwhile: data.meanwhile.join(' ') }),
          });
          setMessage('');
          setForce('');
          onOpenChange(false);
        });
      }}
      submit={errors.length > 0 ? STRIP.publishAllSame : STRIP.publishNow}
      look={errors.length > 0 ? 'danger' : 'signal'}
      isBusy={publish.isPending}
      isDisabled={!all.data || breaking !== undefined}
      leave={STRIP.notYet}
    >
      {all.data && fresh.data && <FoundList errors={errors} fresh={fresh.data} />}
      {breaking && (
        <p className="text-sm text-danger">{say(STRIP.titleWouldBreak, { title: breaking.title })}</p>
      )}
      {errors.length > 0 && !breaking && (
        <Field
          label={STRIP.whyPublishSpite}
          placeholder={STRIP.fairOpensNine}
          hint={STRIP.keptReleaseEverybody}
          required
          minLength={3}
          maxLength={500}
          value={force}
          onChange={(event) => setForce(event.target.value)}
        />
      )}
      <Field
        autoFocus
        label={STRIP.whatDoesChange}
        placeholder={STRIP.chatEveryPage}
        hint={STRIP.lineThoseWho}
        required
        maxLength={120}
        value={message}
        onChange={(event) => setMessage(event.target.value)}
      />
    </FormDialog>
  );
}

/** A few changes at once; many under one line, so that what is asked stays in sight. */
function WhatGoesLive({ changes }: { changes: readonly Change[] }) {
  if (changes.length <= FEW) return <ChangeList changes={changes} />;
  return (
    <details>
      <summary className="cursor-pointer font-medium text-ink">
        {say(STRIP.whatGoesLive, { count: changes.length })}
      </summary>
      <ChangeList changes={changes} />
    </details>
  );
}

/** So many lines are read at a glance. */
const FEW = 3;

/** Errors, new or not, and whatever else is new against what is live. */
function FoundList({
  errors,
  fresh,
}: {
  errors: readonly OpenFindingResource[];
  fresh: readonly OpenFindingResource[];
}) {
  const news = new Set(fresh.map(({ id }) => id));
  const shown = [...errors, ...fresh.filter(({ severity }) => severity === 'warning')];
  if (shown.length === 0)
    return (
      <p className="flex gap-1.5 text-sm text-good">
        <CircleCheck className="mt-0.5 size-4 shrink-0" aria-hidden /> {STRIP.checksFindNothing}
      </p>
    );
  return (
    <div className="rounded-lg border border-line bg-raised p-3 text-sm">
      <p className="font-medium">
        {errors.length === 0 ? STRIP.newSinceLast : say(STRIP.foundErrors, { count: errors.length })}
      </p>
      <Titles findings={shown.slice(0, FEW)} news={news} />
      {shown.length > FEW && (
        <details className="mt-1.5">
          <summary className="cursor-pointer text-muted">
            {say(STRIP.moreFound, { count: shown.length - FEW })}
          </summary>
          <Titles findings={shown.slice(FEW)} news={news} />
        </details>
      )}
      <DialogClose asChild>
        <Link to="../findings" className="mt-2 inline-block text-primary underline">
          {STRIP.whatDoAbout}
        </Link>
      </DialogClose>
    </div>
  );
}

function Titles({ findings, news }: { findings: readonly OpenFindingResource[]; news: ReadonlySet<string> }) {
  return (
    <ul className="mt-1.5 space-y-1.5">
      {findings.map(({ id, title, severity }) => (
        <li key={id} className="flex gap-1.5">
          <TriangleAlert
            className={cn('mt-0.5 size-4 shrink-0', severity === 'error' ? 'text-danger' : 'text-signal')}
            aria-hidden
          />
          <span>
            {title}
            {news.has(id) && (
              <span className="ml-1.5 rounded-full bg-signal-soft px-1.5 text-xs font-medium text-signal">
                {STRIP.isNew}
              </span>
            )}
          </span>
        </li>
      ))}
    </ul>
  );
}
