import type { SurveyInput } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { siteQuery } from '../../api/queries';
import { SURVEY } from '../../texts/survey';
import { FormDialog } from '../../ui/form-dialog';
import { SelectField } from '../../ui/select-field';
import { Field } from '../../ui/field';

interface StartDialogProps {
  readonly site: string;
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
  /** @returns whether it has started */
  readonly start: (options: SurveyInput) => Promise<boolean>;
}

/** What is asked before a survey begins. The defaults are right for most. */
export function StartDialog({ site, isOpen, onOpenChange, start }: StartDialogProps) {
  const hosts = useQuery(siteQuery(site)).data?.data.hosts ?? [];
  const [host, setHost] = useState('');
  const [side, setSide] = useState<'public' | 'origin' | 'both'>('both');
  const [limit, setLimit] = useState('10000');
  const [delay, setDelay] = useState('0');
  const [ignoreRobots, setIgnoreRobots] = useState(false);
  const [isBusy, setBusy] = useState(false);
  const submit = async (): Promise<void> => {
    setBusy(true);
    const chosen = hosts.find((one) => one.host === host);
    await start({
      ...(chosen ? { host: chosen.host, environment: chosen.environment } : {}),
      side,
      limit: Number(limit),
      delayMs: Math.round(Number(delay) * 1000),
      ignoreRobots,
    });
    setBusy(false);
    onOpenChange(false);
  };
  return (
    <FormDialog
      title={SURVEY.dialogTitle}
      description={SURVEY.dialogText}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
      onSubmit={() => {
        void submit();
      }}
      submit={SURVEY.start}
      isBusy={isBusy}
      leave={SURVEY.later}
    >
      {hosts.length > 1 && (
        <SelectField
          label={SURVEY.host}
          value={host}
          options={hosts.map((one) => [one.host, `${one.host} (${one.environment})`] as const)}
          onChange={setHost}
        />
      )}
      <fieldset className="space-y-2">
        <legend className="text-sm font-medium">{SURVEY.side}</legend>
        <Choice
          name="side"
          type="radio"
          isOn={side === 'both'}
          onChange={() => setSide('both')}
          hint={SURVEY.sideBothHint}
        >
          {SURVEY.sideBoth}
        </Choice>
        <Choice
          name="side"
          type="radio"
          isOn={side === 'public'}
          onChange={() => setSide('public')}
          hint={SURVEY.sidePublicHint}
        >
          {SURVEY.sidePublic}
        </Choice>
        <Choice
          name="side"
          type="radio"
          isOn={side === 'origin'}
          onChange={() => setSide('origin')}
          hint={SURVEY.sideOriginHint}
        >
          {SURVEY.sideOrigin}
        </Choice>
      </fieldset>
      <div className="grid gap-4 sm:grid-cols-2">
        <Field
          label={SURVEY.limit}
          type="number"
          min={1}
          max={200_000}
          required
          value={limit}
          onChange={(event) => setLimit(event.target.value)}
        />
        <Field
          label={SURVEY.delay}
          type="number"
          min={0}
          max={60}
          step="0.1"
          required
          value={delay}
          hint={SURVEY.delayHint}
          onChange={(event) => setDelay(event.target.value)}
        />
      </div>
      <Choice
        type="checkbox"
        isOn={ignoreRobots}
        onChange={() => setIgnoreRobots((is) => !is)}
        hint={SURVEY.ignoreRobotsHint}
      >
        {SURVEY.ignoreRobots}
      </Choice>
    </FormDialog>
  );
}

interface ChoiceProps {
  readonly type: 'radio' | 'checkbox';
  readonly name?: string;
  readonly isOn: boolean;
  readonly onChange: () => void;
  readonly hint: string;
  readonly children: ReactNode;
}

function Choice({ type, name, isOn, onChange, hint, children }: ChoiceProps) {
  return (
    <label className="flex gap-2.5 text-sm">
      <input
        type={type}
        name={name}
        checked={isOn}
        onChange={onChange}
        className="mt-0.5 size-4 shrink-0 accent-(--primary)"
      />
      <span>
        {children}
        <span className="block text-[13px] text-muted">{hint}</span>
      </span>
    </label>
  );
}
