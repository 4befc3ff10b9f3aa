import type { FieldResource } from '@pragmatica/contract';
import { FIELD_TYPES, fieldValueProblem, type FieldType } from '@pragmatica/core';
import { Plus, Trash2 } from 'lucide-react';
import { Link } from 'react-router';
import { Button } from '../../ui/button';
import { Field, inputStyle } from '../../ui/field';
import { SETTINGS } from '../../texts/settings';
import { rich } from '../../texts/rich';
import { say } from '../../texts/say';

interface FieldsEditorProps {
  fields: readonly FieldResource[];
  onChange: (fields: FieldResource[]) => void;
  errorAt: (pointer: string) => string | undefined;
}

/** Named values for the code of this site's snippets. */
export function FieldsEditor({ fields, onChange, errorAt }: FieldsEditorProps) {
  const set = (index: number, change: Partial<FieldResource>): void =>
    onChange(fields.map((field, i) => (i === index ? { ...field, ...change } : field)));
  return (
    <section className="space-y-3 rounded-xl border border-line bg-surface p-4 sm:p-5">
      <div>
        <h2>{SETTINGS.fields}</h2>
        <p className="text-sm text-muted">
          {rich(SETTINGS.valuesDifferFrom, {
            code: <code className="font-mono">@{'{name}'}</code>,
            link: (
              <Link to="/fields" className="text-primary underline">
                {SETTINGS.allSitesOne}
              </Link>
            ),
          })}
        </p>
      </div>
      {fields.map((field, index) => {
        const problem = (value: string | undefined): string | undefined =>
          value === undefined || value === '' ? undefined : fieldValueProblem(field.type, value);
        const place = (name: 'example' | 'value' | 'staging', label: string, placeholder?: string) => (
          <Field
            label={label}
            value={field[name] ?? ''}
            error={errorAt(`/fields/${index}/${name}`) ?? problem(field[name])}
            {...(placeholder === undefined ? {} : { placeholder })}
            onChange={(event) =>
              set(index, { [name]: event.target.value === '' ? undefined : event.target.value })
            }
          />
        );
        return (
          <fieldset key={index} className="grid gap-3 border-t border-line pt-3 sm:grid-cols-3">
            <legend className="sr-only">{say(SETTINGS.fieldIndex, { index: index + 1 })}</legend>
            <Field
              label={SETTINGS.fieldName}
              required
              placeholder={SETTINGS.account}
              value={field.name}
              hint={field.name === '' ? undefined : `@{${field.name}}`}
              error={errorAt(`/fields/${index}/name`)}
              onChange={(event) => set(index, { name: event.target.value })}
            />
            <Field
              label={SETTINGS.fieldLabel}
              required
              placeholder={SETTINGS.accountTallymast}
              value={field.label}
              error={errorAt(`/fields/${index}/label`)}
              onChange={(event) => set(index, { label: event.target.value })}
            />
            <label className="space-y-1.5 text-sm font-medium">
              <span className="block">{SETTINGS.type}</span>
              <select
                className={inputStyle}
                value={field.type}
                onChange={(event) => set(index, { type: event.target.value as FieldType })}
              >
                {FIELD_TYPES.map((type) => (
                  <option key={type}>{type}</option>
                ))}
              </select>
            </label>
            {place('value', SETTINGS.value)}
            {place('staging', SETTINGS.stagingWhereDiffers, SETTINGS.sameOnStaging)}
            {place('example', SETTINGS.providerSExample, 'TM-0000')}
            <div>
              <Button
                look="quiet"
                size="small"
                onClick={() => onChange(fields.filter((_, i) => i !== index))}
              >
                <Trash2 className="size-3.5" aria-hidden /> {SETTINGS.takeFieldOut}
              </Button>
            </div>
          </fieldset>
        );
      })}
      <Button onClick={() => onChange([...fields, { name: '', type: 'id', label: '' }])}>
        <Plus className="size-4" aria-hidden /> {SETTINGS.addField}
      </Button>
    </section>
  );
}
