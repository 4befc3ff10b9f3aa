import type { SiteResource } from '@pragmatica/contract';
import {
  DEVICES,
  devicesWords,
  hoursProblems,
  limitsWords,
  normalizeLimits,
  type Device,
  type Hours,
  type Limits,
  type SiteReach,
  type VisitorRules,
} from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { siteQuery } from '../../api/queries';
import { Chip } from '../../ui/chip';
import { cn } from '../../ui/cn';
import { inputStyle } from '../../ui/field';
import { Folded } from '../../ui/folded';
import { HoursEditor } from './hours-editor';
import { REACH } from '../../texts/reach';
import { rich } from '../../texts/rich';

interface ReachEditorProps {
  site: string;
  limits: Limits;
  onChange: (limits: Limits) => void;
}

const WORKING_HOURS: Hours = {
  weekly: Object.fromEntries(
    ['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, [{ from: '09:00', to: '17:00' }]]),
  ),
};

/** Where, on what, when, with which consent and for whom, as a sentence that can be changed word by word. */
export function ReachEditor({ site, limits, onChange }: ReachEditorProps) {
  const known = useQuery(siteQuery(site)).data?.data;
  const reach = toSiteReach(known);
  const [isMore, setMore] = useState(limits.visitor !== undefined);
  const set = (change: { [K in keyof Limits]?: Limits[K] | undefined }): void =>
    onChange(normalizeLimits({ ...limits, ...change }) ?? {});
  const words = limitsWords(limits, reach);
  const { environment, devices = DEVICES, hours, consent = [], visitor = {} } = limits;
  const toggle = (device: Device): void => {
    const next = devices.includes(device)
      ? devices.filter((entry) => entry !== device)
      : [...devices, device];
    if (next.length > 0) set({ devices: next });
  };
  const categories = known?.consent?.categories ?? [];
  return (
    <Folded
      id="reach"
      title={REACH.whenWhom}
      help="reach"
      isForced={hours !== undefined && hoursProblems(hours).length > 0}
      summary={rich(REACH.runs, {
        when: (
          <strong className="font-semibold text-primary">
            {words.length === 0 ? REACH.alwaysEverybody : words.join(', ')}
          </strong>
        ),
      })}
    >
      <Row label={REACH.where}>
        <Choice
          label={REACH.environment}
          value={environment ?? 'both'}
          options={[
            ['both', REACH.liveStaging],
            ['live', REACH.liveOnly],
            ['staging', REACH.stagingOnly],
          ]}
          onChange={(value) => set({ environment: value === 'both' ? undefined : (value as 'live') })}
        />
      </Row>
      <Row label={REACH.whichDevices}>
        <div role="group" aria-label={REACH.devices} className="flex flex-wrap gap-1.5">
          {DEVICES.map((device) => (
            <Chip key={device} isOn={devices.includes(device)} onClick={() => toggle(device)}>
              {devicesWords([device])}
            </Chip>
          ))}
        </div>
      </Row>
      <Row label={REACH.whatTimes}>
        <div className="w-full space-y-3">
          <Choice
            label={REACH.hours}
            value={hours ? 'hours' : 'always'}
            options={[
              ['always', REACH.allTime],
              ['hours', REACH.openingHours],
            ]}
            onChange={(value) => set({ hours: value === 'always' ? undefined : (hours ?? WORKING_HOURS) })}
          />
          {hours && (
            <HoursEditor
              hours={hours}
              timeZone={reach.timeZone}
              onChange={(next) => onChange({ ...limits, hours: next })}
            />
          )}
        </div>
      </Row>
      <Row label={REACH.consent}>
        {categories.length === 0 ? (
          <p className="text-sm text-muted">
            {rich(REACH.siteAsksVisitors, {
              settings: (
                <Link className="text-primary underline" to="../settings/consent">
                  {REACH.saySettings}
                </Link>
              ),
            })}
          </p>
        ) : (
          <div role="group" aria-label={REACH.consentChoices} className="flex flex-wrap items-center gap-1.5">
            {categories.map(({ key, name }) => (
              <Chip
                key={key}
                isOn={consent.includes(key)}
                onClick={() =>
                  set({
                    consent: consent.includes(key)
                      ? consent.filter((entry) => entry !== key)
                      : [...consent, key],
                  })
                }
              >
                {name}
              </Chip>
            ))}
            {consent.length === 0 && <span className="text-sm text-muted">{REACH.nothingAsksNone}</span>}
          </div>
        )}
      </Row>
      <Row label={REACH.whichVisitors}>
        <Choice
          label={REACH.visitors}
          value={visitor.who ?? 'all'}
          options={[
            ['all', REACH.everybody],
            ['first', REACH.firstVisit],
            ['returning', REACH.whoHaveBeen],
          ]}
          onChange={(value) =>
            set({ visitor: withoutEmpty({ ...visitor, who: value === 'all' ? undefined : value }) })
          }
        />
        <button
          type="button"
          className="text-sm text-primary underline"
          aria-expanded={isMore}
          onClick={() => setMore(!isMore)}
        >
          {isMore ? REACH.fewerChoices : REACH.waitShowSeldom}
        </button>
      </Row>
      {isMore && (
        <VisitorFields visitor={visitor} onChange={(next) => set({ visitor: withoutEmpty(next) })} />
      )}
    </Folded>
  );
}

/** What core's words need of a site. */
export function toSiteReach(site: SiteResource | undefined): SiteReach {
  const { timeZone = 'UTC', pageGroups = [], consent } = site ?? {};
  return {
    timeZone,
    pageGroups,
    ...(consent ? { consent: consent } : {}),
  };
}

function withoutEmpty(visitor: object): VisitorRules {
  return Object.fromEntries(
    Object.entries(visitor).filter(([, value]) => value !== undefined && value !== '' && value !== false),
  );
}

function Row({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="grid gap-x-4 gap-y-1.5 sm:grid-cols-[9rem_minmax(0,1fr)]">
      <p className="pt-1 text-sm font-medium">{label}</p>
      <div className="flex flex-wrap items-center gap-3">{children}</div>
    </div>
  );
}

interface ChoiceProps {
  label: string;
  value: string;
  options: readonly (readonly [value: string, label: string])[];
  onChange: (value: string) => void;
}

function Choice({ label, value, options, onChange }: ChoiceProps) {
  return (
    <select
      aria-label={label}
      className={cn(inputStyle, 'h-9 w-auto py-1')}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    >
      {options.map(([entry, text]) => (
        <option key={entry} value={entry}>
          {text}
        </option>
      ))}
    </select>
  );
}

const NUMBERS = [
  ['afterSeconds', REACH.secondsWait],
  ['afterScroll', REACH.percentPageScrolled],
  ['everyDays', REACH.mostOnceSo],
  ['minWidth', REACH.windowLeastSo],
  ['maxWidth', REACH.windowMostSo],
] as const;

function VisitorFields({
  visitor,
  onChange,
}: {
  visitor: VisitorRules;
  onChange: (visitor: VisitorRules) => void;
}) {
  return (
    <div className="grid gap-3 rounded-lg border border-line bg-paper/60 p-3 sm:grid-cols-2">
      {NUMBERS.map(([field, label]) => (
        <label key={field} className="flex items-center justify-between gap-3 text-sm">
          {label}
          <input
            type="number"
            min={0}
            className={cn(inputStyle, 'h-8 w-24 py-1')}
            value={visitor[field] ?? ''}
            onChange={(event) => {
              const { value: typed } = event.target;
              onChange({ ...visitor, [field]: typed === '' ? undefined : Number(typed) });
            }}
          />
        </label>
      ))}
      <label className="flex items-center gap-2 text-sm">
        <input
          type="checkbox"
          className="size-4 accent-primary"
          checked={visitor.onLeaving ?? false}
          onChange={(event) => onChange({ ...visitor, onLeaving: event.target.checked })}
        />
        {REACH.whenVisitorAbout}
      </label>
      <p className="text-[13px] text-muted sm:col-span-2">{REACH.onlyVisitorS}</p>
    </div>
  );
}
