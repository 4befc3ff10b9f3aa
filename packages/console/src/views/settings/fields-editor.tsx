import type { FieldResource } from '@pragmatica/contract';
import { FIELD_TYPES, fieldValueProblem, type FieldType } from '@pragmatica/core';
import { Plus, Trash2 } from 'lucide-react';
import { Link } from 'react-router';
import { Button } from '../../ui/button';
import { Field, inputStyle } from '../../ui/field';

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
        <h2>Fields</h2>
        <p className="text-sm text-muted">
          Values that differ from site to site, or between staging and live. Write{' '}
          <code className="font-mono">@{'{name}'}</code> into the code of a snippet.{' '}
          <Link to="/fields" className="text-primary underline">
            All sites in one table
          </Link>
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
            <legend className="sr-only">Field {index + 1}</legend>
            <Field
              label="In the code"
              required
              placeholder="account"
              value={field.name}
              hint={field.name === '' ? undefined : `@{${field.name}}`}
              error={errorAt(`/fields/${index}/name`)}
              onChange={(event) => set(index, { name: event.target.value })}
            />
            <Field
              label="What it is"
              required
              placeholder="Account at Tallymast"
              value={field.label}
              error={errorAt(`/fields/${index}/label`)}
              onChange={(event) => set(index, { label: event.target.value })}
            />
            <label className="space-y-1.5 text-sm font-medium">
              <span className="block">Type</span>
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
            {place('value', 'Value')}
            {place('staging', 'On staging, where it differs', 'the same')}
            {place('example', 'The provider’s example', 'TM-0000')}
            <div>
              <Button
                look="quiet"
                size="small"
                onClick={() => onChange(fields.filter((_, i) => i !== index))}
              >
                <Trash2 className="size-3.5" aria-hidden /> Take the field out
              </Button>
            </div>
          </fieldset>
        );
      })}
      <Button onClick={() => onChange([...fields, { name: '', type: 'id', label: '' }])}>
        <Plus className="size-4" aria-hidden /> Add a field
      </Button>
    </section>
  );
}
