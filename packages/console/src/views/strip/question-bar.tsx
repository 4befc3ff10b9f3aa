import type { SiteResource } from '@pragmatica/contract';
import { DEVICES, localTimeAt } from '@pragmatica/core';
import { ExternalLink, RotateCcw } from 'lucide-react';
import { ToggleGroup } from 'radix-ui';
import { useId, type ReactNode } from 'react';
import { Button } from '../../ui/button';
import { Chip } from '../../ui/chip';
import { cn } from '../../ui/cn';
import { inputStyle } from '../../ui/field';
import { PageCombobox } from '../../ui/page-combobox';
import { FIRST_QUESTION, type Question, type SetName } from './question';
import { STRIP } from '../../texts/strip';
import { say } from '../../texts/say';

interface QuestionBarProps {
  site: SiteResource | undefined;
  pages: { readonly paths: readonly string[]; readonly source: string; readonly message: string } | undefined;
  question: Question;
  onAsk: (change: Partial<Question>) => void;
}

/** Which page load is being looked at, as a sentence. */
export function QuestionBar({ site, pages, question, onAsk }: QuestionBarProps) {
  const id = useId();
  const { path, of, environment } = question;
  const host = site?.hosts.find((entry) => entry.environment === environment);
  const address = host && `${host.address ?? `http://${host.host}`}${path}`;
  return (
    <div className="space-y-2">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <h1 className="mr-1 text-xl">
          <label htmlFor={id}>{STRIP.aVisitorOf}</label>
        </h1>
        <PageCombobox
          id={id}
          paths={pages?.paths ?? []}
          path={path}
          onChoose={(chosen) => onAsk({ path: chosen })}
          className="h-9 w-64 max-w-full"
        />
        <span className="text-xl font-semibold tracking-tight">{STRIP.visitorGets}</span>
        <ToggleGroup.Root
          type="single"
          value={of}
          onValueChange={(value) => {
            if (value !== '') onAsk({ of: value as SetName });
          }}
          aria-label={STRIP.whichSet}
          className="flex rounded-md border border-line-strong bg-raised p-0.5"
        >
          <SetToggle value="live" label={publishedLabel(site, environment)} />
          <SetToggle value="draft" label={STRIP.afterPublishing} />
        </ToggleGroup.Root>
        {address && (
          <Button asChild look="quiet" size="small" className="ml-auto">
            <a href={address} target="_blank" rel="noreferrer">
              {STRIP.openPage} <ExternalLink className="size-3.5" aria-hidden />
            </a>
          </Button>
        )}
      </div>
      <PageLoadBar site={site} question={question} onAsk={onAsk} />
      {pages?.source === 'assumed' && <p className="w-full text-[13px] text-muted">{pages.message}</p>}
    </div>
  );
}

/** The page load as it is asked about at first, whatever the page. */
const FIRST_LOAD = {
  environment: FIRST_QUESTION.environment,
  device: FIRST_QUESTION.device,
  at: FIRST_QUESTION.at,
  consent: FIRST_QUESTION.consent,
  visitor: FIRST_QUESTION.visitor,
};

/** Everything of the page load beside its page. */
function PageLoadBar({ site, question, onAsk }: Omit<QuestionBarProps, 'pages'>) {
  const { environment, device, at, consent, visitor } = question;
  const agreed = consent.split(',').filter(Boolean);
  const categories = site?.consent?.categories ?? [];
  const isChanged = Object.entries(FIRST_LOAD).some(
    ([name, value]) => question[name as keyof Question] !== value,
  );
  return (
    <div
      role="group"
      aria-label={STRIP.pageLoad}
      className="flex flex-wrap items-center gap-x-4 gap-y-2 rounded-lg border border-line bg-surface px-3 py-2 text-sm"
    >
      <Select
        label={STRIP.onDevice}
        name={STRIP.device}
        value={device}
        onChange={(value) => onAsk({ device: value as Question['device'] })}
      >
        {DEVICES.map((entry) => (
          <option key={entry} value={entry}>
            {say(STRIP.aDevice, { device: entry })}
          </option>
        ))}
      </Select>
      <Select
        label={STRIP.atTime}
        name={STRIP.timeOfLoad}
        value={at === '' ? 'now' : 'then'}
        onChange={(value) =>
          onAsk({ at: value === 'now' ? '' : localTimeAt(Date.now(), site?.timeZone ?? 'UTC') })
        }
      >
        <option value="now">{STRIP.now}</option>
        <option value="then">{STRIP.anotherTime}</option>
      </Select>
      {at !== '' && (
        <label className="flex items-center gap-1.5">
          <input
            type="datetime-local"
            aria-label={STRIP.timeSite}
            className={cn(inputStyle, 'h-8 w-auto px-2 py-0.5 text-[13px]')}
            value={at}
            onChange={(event) => onAsk({ at: event.target.value })}
          />
          <span className="text-muted">{site?.timeZone}</span>
        </label>
      )}
      {categories.length > 0 && (
        <span className="flex flex-wrap items-center gap-1.5" role="group" aria-label={STRIP.consentGiven}>
          <span className="text-muted">{STRIP.agreed}</span>
          {categories.map(({ key, name }) => {
            const isOn = agreed.includes(key);
            const next = isOn ? agreed.filter((entry) => entry !== key) : [...agreed, key];
            return (
              <Chip key={key} isOn={isOn} onClick={() => onAsk({ consent: next.join(',') })}>
                {name}
              </Chip>
            );
          })}
        </span>
      )}
      <Select
        label={STRIP.onVisit}
        name={STRIP.visit}
        value={visitor}
        onChange={(value) => onAsk({ visitor: value as Question['visitor'] })}
      >
        <option value="">{STRIP.anyVisit}</option>
        <option value="first">{STRIP.firstVisit}</option>
        <option value="returning">{STRIP.laterVisit}</option>
      </Select>
      <Select
        label={STRIP.ofVisit}
        name={STRIP.environment}
        value={environment}
        onChange={(value) => onAsk({ environment: value as Question['environment'] })}
      >
        <option value="live">{STRIP.ofLive}</option>
        <option value="staging">{STRIP.staging}</option>
      </Select>
      {isChanged && (
        <Button look="quiet" size="small" onClick={() => onAsk(FIRST_LOAD)}>
          <RotateCcw className="size-3.5" aria-hidden /> {STRIP.asAtFirst}
        </Button>
      )}
    </div>
  );
}

function Select({
  label,
  name,
  value,
  onChange,
  children,
}: {
  label: string;
  /** What it chooses, for those who cannot see the sentence. */
  name: string;
  value: string;
  onChange: (value: string) => void;
  children: ReactNode;
}) {
  return (
    <label className="flex items-center gap-1.5">
      <span className="text-muted">{label}</span>
      <select
        aria-label={name}
        className={cn(inputStyle, 'h-8 w-auto px-2 py-0.5 text-[13px]')}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        {children}
      </select>
    </label>
  );
}

function SetToggle({ value, label }: { value: SetName; label: string }) {
  return (
    <ToggleGroup.Item
      value={value}
      className="h-8 rounded px-3 text-sm font-medium text-muted data-[state=on]:bg-primary-soft data-[state=on]:text-primary"
    >
      {label}
    </ToggleGroup.Item>
  );
}

function publishedLabel(site: SiteResource | undefined, environment: 'live' | 'staging'): string {
  const release = site?.environments[environment];
  return release === null || release === undefined ? STRIP.now : say(STRIP.nowReleaseRelease, { release });
}
