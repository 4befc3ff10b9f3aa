import { consentPathProblem, keyFromName, type ConsentRules } from '@pragmatica/core';
import { Plus, X } from 'lucide-react';
import { Button } from '../../ui/button';
import { HelpLink } from '../../ui/help-link';
import { Field, inputStyle } from '../../ui/field';
import { SETTINGS } from '../../texts/settings';
import { say } from '../../texts/say';

interface ConsentEditorProps {
  consent: ConsentRules | null;
  onChange: (consent: ConsentRules | null) => void;
  errorAt: (pointer: string) => string | undefined;
}

const FIRST: ConsentRules = {
  categories: [{ key: 'adverts', name: SETTINGS.adverts }],
  cookie: '',
  format: { kind: 'list' },
};

/** Which purposes visitors are asked about, and where their answer is read. */
export function ConsentEditor({ consent, onChange, errorAt }: ConsentEditorProps) {
  return (
    <section className="space-y-3 rounded-xl border border-line bg-surface p-4 sm:p-5">
      <div>
        <h2 className="flex items-center gap-1.5">
          {SETTINGS.consent} <HelpLink to="reach#consent" subject={SETTINGS.consent} />
        </h2>
        <p className="text-sm text-muted">{SETTINGS.whichPurposesSite}</p>
      </div>
      {consent ? (
        <ConsentFields consent={consent} onChange={onChange} errorAt={errorAt} />
      ) : (
        <Button onClick={() => onChange(FIRST)}>
          <Plus className="size-4" aria-hidden /> {SETTINGS.siteAsksConsent}
        </Button>
      )}
    </section>
  );
}

function ConsentFields({ consent, onChange, errorAt }: ConsentEditorProps & { consent: ConsentRules }) {
  const { categories, cookie, format } = consent;
  const setCategory = (index: number, change: Partial<(typeof categories)[number]>): void =>
    onChange({
      ...consent,
      categories: categories.map((entry, i) => (i === index ? { ...entry, ...change } : entry)),
    });
  return (
    <div className="space-y-3">
      <div className="grid gap-3 sm:grid-cols-3">
        <Field
          label={SETTINGS.cookie}
          required
          placeholder={SETTINGS.cookieExample}
          value={cookie}
          error={errorAt('/consent/cookie')}
          onChange={(event) => onChange({ ...consent, cookie: event.target.value })}
        />
        <label className="space-y-1.5 text-sm font-medium">
          <span className="block">{SETTINGS.whatHolds}</span>
          <select
            className={inputStyle}
            value={format.kind}
            onChange={(event) =>
              onChange({
                ...consent,
                format:
                  event.target.value === 'json' ? { kind: 'json', path: '$.purposes' } : { kind: 'list' },
              })
            }
          >
            <option value="list">{SETTINGS.listAdvertsVisits}</option>
            <option value="json">{SETTINGS.json}</option>
          </select>
        </label>
        {format.kind === 'json' && (
          <Field
            label={SETTINGS.whereJson}
            required
            value={format.path}
            hint={SETTINGS.jsonpathListPurposes}
            error={errorAt('/consent/format/path') ?? consentPathProblem(format.path) ?? undefined}
            onChange={(event) => onChange({ ...consent, format: { kind: 'json', path: event.target.value } })}
          />
        )}
      </div>
      {categories.map((category, index) => (
        <div key={index} className="flex flex-wrap items-end gap-3">
          <Field
            label={SETTINGS.purpose}
            required
            className="w-56"
            value={category.name}
            error={
              errorAt(`/consent/categories/${index}/name`) ?? errorAt(`/consent/categories/${index}/key`)
            }
            onChange={(event) => {
              const name = event.target.value;
              const isNew = category.key === keyFromName(category.name);
              setCategory(index, { name, ...(isNew ? { key: keyFromName(name) } : {}) });
            }}
          />
          <Field
            label={SETTINGS.keyInCookie}
            className="w-44"
            placeholder={category.key}
            value={category.value ?? ''}
            onChange={(event) =>
              setCategory(index, { value: event.target.value === '' ? undefined : event.target.value })
            }
          />
          <Button
            look="quiet"
            size="small"
            className="mb-1.5"
            aria-label={say(SETTINGS.takeNameOut, { name: category.name })}
            onClick={() => {
              const rest = categories.filter((_, i) => i !== index);
              onChange(rest.length > 0 ? { ...consent, categories: rest } : null);
            }}
          >
            <X className="size-3.5" aria-hidden />
          </Button>
        </div>
      ))}
      <Button onClick={() => onChange({ ...consent, categories: [...categories, { key: '', name: '' }] })}>
        <Plus className="size-4" aria-hidden /> {SETTINGS.anotherPurpose}
      </Button>
    </div>
  );
}
