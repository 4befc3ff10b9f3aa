import type { FieldResource } from '@pragmatica/contract';
import { Plus } from 'lucide-react';
import { Link } from 'react-router';
import { Button } from '../../ui/button';
import { HelpLink } from '../../ui/help-link';
import { cn } from '../../ui/cn';
import { SETTINGS } from '../../texts/settings';
import { rich } from '../../texts/rich';
import { FIELD_COLUMNS, FieldRow } from './field-row';

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
        <h2 className="flex items-center gap-1.5">
          {SETTINGS.fields} <HelpLink to="recipes#the-format" subject={SETTINGS.fields} />
        </h2>
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
      {fields.length > 0 && (
        <table className="w-full table-fixed text-sm max-md:block">
          <thead className="text-left text-[13px] text-muted max-md:hidden">
            <tr>
              {FIELD_COLUMNS.map(({ name, label, width }) => (
                <th key={name} className={cn('pr-2 pb-1.5 font-medium', width)}>
                  {label}
                </th>
              ))}
              <th className="w-9">
                <span className="sr-only">{SETTINGS.takeFieldOut}</span>
              </th>
            </tr>
          </thead>
          <tbody className="max-md:block">
            {fields.map((field, index) => (
              <FieldRow
                key={index}
                index={index}
                field={field}
                onChange={(change) => set(index, change)}
                onRemove={() => onChange(fields.filter((_, i) => i !== index))}
                errorAt={errorAt}
              />
            ))}
          </tbody>
        </table>
      )}
      <Button onClick={() => onChange([...fields, { name: '', type: 'id', label: '' }])}>
        <Plus className="size-4" aria-hidden /> {SETTINGS.addField}
      </Button>
    </section>
  );
}
