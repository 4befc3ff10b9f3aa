import type { BackupRuleResource } from '@pragmatica/contract';
import { useId, useState } from 'react';
import { fieldErrorsOf } from '../../api/field-errors';
import { useSetBackupRule } from '../../api/backups';
import { BACKUPS } from '../../texts/backups';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { FormError, inputStyle } from '../../ui/field';
import { Labelled } from '../../ui/labelled';
import { Section } from '../../ui/section';
import { useToast } from '../../ui/toast';
import { RhythmFields } from '../survey/rhythm-fields';
import { useRhythm } from '../survey/use-rhythm';
import { NewKeyDialog } from './new-key-dialog';

const SPANS = ['days', 'weeks', 'months'] as const;
const MOST = { days: 366, weeks: 520, months: 240 } as const;

/** When backups are made by themselves, for whom they are encrypted, and how many are kept. */
export function BackupRuleForm({ rule }: { rule: BackupRuleResource }) {
  const id = useId();
  const toast = useToast();
  const set = useSetBackupRule(() => toast({ tone: 'done', title: BACKUPS.saved }));
  const { isPlanned: isOn, isOther, choice, cron, change } = useRhythm(rule.cron, rule.isOn);
  const [keep, setKeep] = useState(rule.keep);
  const [recipients, setRecipients] = useState(rule.recipients.join('\n'));
  const [isMaking, setMaking] = useState(false);
  const errors = fieldErrorsOf(set.error);
  const lines = recipients
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');
  // Whoever changes the time means their own clocks.
  const zone = cron === rule.cron ? rule.zone : Intl.DateTimeFormat().resolvedOptions().timeZone;
  const wrongLine = lines.map((_, at) => errors.at(`/recipients/${at}`)).find((text) => text !== undefined);
  return (
    <Section title={BACKUPS.planTitle} text={BACKUPS.planText}>
      <form
        className="space-y-5"
        onSubmit={(event) => {
          event.preventDefault();
          set.mutate({ isOn, cron, zone, keep, recipients: lines });
        }}
      >
        <div className="grid gap-4 sm:grid-cols-4">
          <RhythmFields
            label={BACKUPS.byItself}
            never={BACKUPS.never}
            other={isOther && isOn ? say(BACKUPS.other, { words: rule.words || rule.cron }) : undefined}
            isPlanned={isOn}
            choice={choice}
            error={errors.at('/cron')}
            onChange={change}
          />
        </div>
        {isOn && <p className="text-[13px] text-muted">{say(BACKUPS.zone, { zone })}</p>}
        <fieldset>
          <legend className="mb-1 font-medium">{BACKUPS.keep}</legend>
          <div className="flex flex-wrap gap-4">
            {SPANS.map((span) => (
              <label key={span} className="flex items-center gap-2">
                <input
                  type="number"
                  className={cn(inputStyle, 'max-w-20')}
                  min={0}
                  max={MOST[span]}
                  required
                  value={keep[span]}
                  onChange={(event) => setKeep({ ...keep, [span]: event.target.valueAsNumber || 0 })}
                />
                {BACKUPS[span]}
              </label>
            ))}
          </div>
        </fieldset>
        <Labelled
          id={`${id}-keys`}
          label={BACKUPS.recipients}
          hint={BACKUPS.recipientsHint}
          error={wrongLine}
        >
          <textarea
            id={`${id}-keys`}
            className={inputStyle}
            rows={2}
            spellCheck={false}
            value={recipients}
            aria-describedby={`${id}-keys-note`}
            onChange={(event) => setRecipients(event.target.value)}
          />
        </Labelled>
        <div className="flex flex-wrap gap-2">
          <Button type="submit" look="primary" isBusy={set.isPending}>
            {BACKUPS.save}
          </Button>
          <Button onClick={() => setMaking(true)}>{BACKUPS.newKey}</Button>
        </div>
        {errors.isEmpty && <FormError error={set.error} />}
      </form>
      {isMaking && (
        <NewKeyDialog
          onClose={() => setMaking(false)}
          onUse={(recipient) => {
            setRecipients([...lines, recipient].join('\n'));
            setMaking(false);
          }}
        />
      )}
    </Section>
  );
}
