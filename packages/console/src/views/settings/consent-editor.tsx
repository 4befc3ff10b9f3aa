import { consentPathProblem, keyFromName, type ConsentRules } from '@pragmatica/core';
import { Plus, X } from 'lucide-react';
import { Button } from '../../ui/button';
import { Field, inputStyle } from '../../ui/field';

interface ConsentEditorProps {
  consent: ConsentRules | null;
  onChange: (consent: ConsentRules | null) => void;
  errorAt: (pointer: string) => string | undefined;
}

const FIRST: ConsentRules = {
  categories: [{ key: 'adverts', name: 'Adverts' }],
  cookie: '',
  format: { kind: 'list' },
};

/** Which purposes visitors are asked about, and where their answer is read. */
export function ConsentEditor({ consent, onChange, errorAt }: ConsentEditorProps) {
  return (
    <section className="space-y-3 rounded-xl border border-line bg-surface p-4 sm:p-5">
      <div>
        <h2>Consent</h2>
        <p className="text-sm text-muted">
          Which purposes the site’s cookie banner asks about, and in which cookie it keeps the answer. A
          snippet that waits for one is not in the page at all before.
        </p>
      </div>
      {consent ? (
        <ConsentFields consent={consent} onChange={onChange} errorAt={errorAt} />
      ) : (
        <Button onClick={() => onChange(FIRST)}>
          <Plus className="size-4" aria-hidden /> This site asks for consent
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
          label="Cookie"
          required
          placeholder="consent"
          value={cookie}
          error={errorAt('/consent/cookie')}
          onChange={(event) => onChange({ ...consent, cookie: event.target.value })}
        />
        <label className="space-y-1.5 text-sm font-medium">
          <span className="block">What it holds</span>
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
            <option value="list">a list: adverts,visits</option>
            <option value="json">JSON</option>
          </select>
        </label>
        {format.kind === 'json' && (
          <Field
            label="Where in the JSON"
            required
            value={format.path}
            hint="JSONPath to a list of purposes, or to an object that says true of each."
            error={errorAt('/consent/format/path') ?? consentPathProblem(format.path) ?? undefined}
            onChange={(event) => onChange({ ...consent, format: { kind: 'json', path: event.target.value } })}
          />
        )}
      </div>
      {categories.map((category, index) => (
        <div key={index} className="flex flex-wrap items-end gap-3">
          <Field
            label="Purpose"
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
            label="In the cookie"
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
            aria-label={`Take ${category.name} out`}
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
        <Plus className="size-4" aria-hidden /> Another purpose
      </Button>
    </div>
  );
}
