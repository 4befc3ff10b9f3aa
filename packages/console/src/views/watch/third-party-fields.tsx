import { Plus, X } from 'lucide-react';
import type { Watch } from '../../api/watch';
import { say } from '../../texts/say';
import { WATCH } from '../../texts/watch';
import { Button } from '../../ui/button';
import { inputStyle } from '../../ui/field';
import { SelectField } from '../../ui/select-field';

type ThirdParties = Watch['thirdParties'];
type HostAnswer = Watch['hostAnswers'][number];

interface Rules {
  readonly usual: ThirdParties;
  readonly hosts: HostAnswer[];
}

interface ThirdPartyFieldsProps {
  readonly rules: Rules;
  readonly errorAt: (...pointers: readonly string[]) => string | undefined;
  readonly onChange: (rules: Rules) => void;
}

const USUAL = [
  ['real', WATCH.othersReal],
  ['stand-ins', WATCH.othersStandIns],
  ['blocked', WATCH.othersBlocked],
] as const;

const ANSWERS = [
  ['real', WATCH.ruleReal],
  ['stand-ins', WATCH.ruleStandIns],
  ['blocked', WATCH.ruleBlocked],
] as const;

/** What other hosts get in visits: all of them, and those that are named. */
export function ThirdPartyFields({ rules, errorAt, onChange }: ThirdPartyFieldsProps) {
  const { usual, hosts } = rules;
  const change = (at: number, changed: Partial<HostAnswer>): void =>
    onChange({ usual, hosts: hosts.map((one, index) => (index === at ? { ...one, ...changed } : one)) });
  return (
    <div className="space-y-3">
      <SelectField
        label={WATCH.others}
        value={usual}
        options={USUAL}
        hint={WATCH.othersHints[usual]}
        onChange={(value) => onChange({ usual: value as ThirdParties, hosts })}
      />
      {hosts.length > 0 && (
        <fieldset className="space-y-2">
          <legend className="text-sm font-medium">{WATCH.hostRules}</legend>
          <p className="text-[13px] text-muted">{WATCH.hostRulesHint}</p>
          {hosts.map(({ host, answer }, index) => {
            const error = errorAt(`/hostAnswers/${index}/host`);
            return (
              <div key={index}>
                <div className="flex flex-wrap gap-2 sm:flex-nowrap">
                  <input
                    className={inputStyle}
                    aria-label={WATCH.ruleHost}
                    aria-invalid={error !== undefined}
                    placeholder={WATCH.ruleHostBegins}
                    value={host}
                    onChange={(event) => change(index, { host: event.target.value })}
                  />
                  <div className="flex w-full gap-2 sm:w-auto sm:shrink-0">
                    <select
                      className={inputStyle}
                      aria-label={WATCH.ruleAnswer}
                      value={answer}
                      onChange={(event) => change(index, { answer: event.target.value as ThirdParties })}
                    >
                      {ANSWERS.map(([value, label]) => (
                        <option key={value} value={value}>
                          {label}
                        </option>
                      ))}
                    </select>
                    <Button
                      aria-label={say(WATCH.removeRule, { host: host === '' ? WATCH.noHost : host })}
                      onClick={() => onChange({ usual, hosts: hosts.filter((_, at) => at !== index) })}
                    >
                      <X className="size-4" aria-hidden />
                    </Button>
                  </div>
                </div>
                {error !== undefined && <p className="mt-1 text-[13px] text-danger">{error}</p>}
              </div>
            );
          })}
        </fieldset>
      )}
      <Button onClick={() => onChange({ usual, hosts: [...hosts, { host: '', answer: 'stand-ins' }] })}>
        <Plus className="size-4" aria-hidden /> {WATCH.addRule}
      </Button>
    </div>
  );
}
