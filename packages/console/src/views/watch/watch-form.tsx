import { watchSettings } from '@pragmatica/contract';
import { useId, useState } from 'react';
import { fieldErrorsOf } from '../../api/field-errors';
import { useSetWatch, type Watch } from '../../api/watch';
import { say } from '../../texts/say';
import { WATCH } from '../../texts/watch';
import { Button } from '../../ui/button';
import { FormError, inputStyle } from '../../ui/field';
import { Labelled } from '../../ui/labelled';
import { SelectField } from '../../ui/select-field';
import { Switch } from '../../ui/switch';
import { useToast } from '../../ui/toast';
import { RhythmFields } from '../survey/rhythm-fields';
import { useRhythm } from '../survey/use-rhythm';
import { Section } from '../visits/section';
import { ThirdPartyFields } from './third-party-fields';
import { Time } from '../../ui/time';

const AFTER = [
  ['nothing', WATCH.afterNothing],
  ['look', WATCH.afterLook],
  ['put-back', WATCH['after-put-back']],
] as const;
type After = Watch['afterPublishing'];

/** When visits begin, what must come before a release and what follows it, and who gets mail. */
export function WatchForm({ site, watch, etag }: { site: string; watch: Watch; etag: string }) {
  const id = useId();
  const toast = useToast();
  const set = useSetWatch(site);
  const { isPlanned, isOther, choice, change, ...rhythm } = useRhythm(watch.cron, watch.cron !== null);
  const [after, setAfter] = useState<After>(watch.afterPublishing);
  const [needsRehearsal, setNeedsRehearsal] = useState(watch.needsRehearsal);
  const [others, setOthers] = useState({ usual: watch.thirdParties, hosts: watch.hostAnswers });
  const [mail, setMail] = useState(watch.mailTo.join('\n'));
  const errors = fieldErrorsOf(set.error);
  const byHand = watch.hosts.filter(({ followsPublishing }) => !followsPublishing).map(({ host }) => host);
  const cron = isPlanned ? rhythm.cron : null;
  const save = (): void =>
    set.run(
      {
        ...watchSettings(watch),
        etag,
        cron,
        afterPublishing: after,
        needsRehearsal,
        thirdParties: others.usual,
        hostAnswers: others.hosts,
        mailTo: mail.split(/\s+/).filter((one) => one !== ''),
      },
      () => toast({ tone: 'done', title: WATCH.saved }),
    );
  return (
    <Section title={WATCH.settings}>
      <form
        className="space-y-5"
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <div className="grid gap-4 sm:grid-cols-4">
          <RhythmFields
            label={WATCH.byItself}
            never={WATCH.never}
            other={isOther ? say(WATCH.otherRhythm, { words: watch.words ?? '' }) : undefined}
            isPlanned={isPlanned}
            choice={choice}
            error={errors.at('/cron')}
            onChange={change}
          />
        </div>
        <p className="text-[13px] text-muted">
          {isPlanned && watch.nextAt !== null ? (
            <>
              {WATCH.inZone} {WATCH.nextAt} <Time at={watch.nextAt} />
            </>
          ) : (
            WATCH.inZone
          )}
        </p>
        <SelectField
          label={WATCH.afterRelease}
          value={after}
          options={AFTER}
          onChange={(value) => setAfter(value as After)}
          hint={
            after === 'put-back'
              ? WATCH.putBackHint
              : after === 'look' && byHand.length > 0
                ? say(WATCH.byHand, { hosts: byHand })
                : undefined
          }
        />
        <div className="flex gap-3">
          <Switch
            needs="own"
            id={`${id}-rehearsal`}
            checked={needsRehearsal}
            onCheckedChange={setNeedsRehearsal}
            aria-describedby={`${id}-rehearsal-note`}
          />
          <div>
            <label htmlFor={`${id}-rehearsal`} className="text-sm font-medium">
              {WATCH.rehearsal}
            </label>
            <p id={`${id}-rehearsal-note`} className="text-[13px] text-muted">
              {WATCH.rehearsalHint}
            </p>
          </div>
        </div>
        <ThirdPartyFields rules={others} errorAt={errors.at} onChange={setOthers} />
        <Labelled
          id={`${id}-mail`}
          label={WATCH.mail}
          hint={watch.canMail ? WATCH.mailHint : WATCH.mailMissing}
          error={watch.mailTo.length === 0 && mail === '' ? undefined : mailError(errors.at, mail)}
        >
          <textarea
            id={`${id}-mail`}
            className={inputStyle}
            rows={2}
            value={mail}
            disabled={!watch.canMail && watch.mailTo.length === 0}
            aria-describedby={`${id}-mail-note`}
            onChange={(event) => setMail(event.target.value)}
          />
        </Labelled>
        {errors.isEmpty && <FormError error={set.error} />}
        <Button type="submit" look="primary" needs="own" isBusy={set.isPending}>
          {WATCH.save}
        </Button>
      </form>
    </Section>
  );
}

/** What is wrong with the first address with which something is. */
function mailError(
  at: (...pointers: readonly string[]) => string | undefined,
  mail: string,
): string | undefined {
  const addresses = mail.split(/\s+/).filter((one) => one !== '');
  for (const [index, address] of addresses.entries()) {
    const problem = at(`/mailTo/${index}`);
    if (problem !== undefined) return `${address}: ${problem}`;
  }
  return undefined;
}
