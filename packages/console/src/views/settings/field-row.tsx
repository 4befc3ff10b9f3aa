import type { FieldResource } from '@pragmatica/contract';
import { FIELD_TYPES, fieldValueProblem, type FieldType } from '@pragmatica/core';
import { Trash2 } from 'lucide-react';
import { say } from '../../texts/say';
import { SETTINGS } from '../../texts/settings';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { inputStyle } from '../../ui/field';

/** The columns, with what stands in an empty cell. */
export const FIELD_COLUMNS = [
  { name: 'name', label: SETTINGS.fieldName, placeholder: SETTINGS.account, width: 'w-[15%]' },
  { name: 'label', label: SETTINGS.fieldLabel, placeholder: SETTINGS.accountTallymast, width: 'w-[22%]' },
  { name: 'type', label: SETTINGS.type, placeholder: '', width: 'w-[11%]' },
  { name: 'value', label: SETTINGS.value, placeholder: '', width: 'w-[18%]' },
  { name: 'staging', label: SETTINGS.stagingWhereDiffers, placeholder: SETTINGS.sameOnStaging, width: '' },
  { name: 'example', label: SETTINGS.providerSExample, placeholder: 'TM-0000', width: '' },
] as const;

interface FieldRowProps {
  readonly index: number;
  readonly field: FieldResource;
  readonly onChange: (change: Partial<FieldResource>) => void;
  readonly onRemove: () => void;
  readonly errorAt: (pointer: string) => string | undefined;
}

/** One field: a row where there is room for one, its cells below each other on a phone. */
export function FieldRow({ index, field, onChange, onRemove, errorAt }: FieldRowProps) {
  return (
    <tr
      aria-label={say(SETTINGS.fieldIndex, { index: index + 1 })}
      className="align-top max-md:grid max-md:grid-cols-2 max-md:gap-x-3 max-md:border-t max-md:border-line max-md:py-3"
    >
      {FIELD_COLUMNS.map(({ name, label, placeholder }) => {
        const error = errorAt(`/fields/${index}/${name}`) ?? problemIn(field, name);
        return (
          <td key={name} className="pr-2 pb-2">
            <span className="mb-1 block text-[13px] text-muted md:hidden" aria-hidden>
              {label}
            </span>
            {name === 'type' ? (
              <select
                aria-label={label}
                className={cn(inputStyle, 'px-2 py-1.5')}
                value={field.type}
                onChange={(event) => onChange({ type: event.target.value as FieldType })}
              >
                {FIELD_TYPES.map((type) => (
                  <option key={type} value={type}>
                    {SETTINGS.fieldTypes[type]}
                  </option>
                ))}
              </select>
            ) : (
              <input
                aria-label={label}
                required={name === 'name' || name === 'label'}
                placeholder={field.name === '' || name === 'staging' ? placeholder : ''}
                className={cn(inputStyle, 'px-2 py-1.5', name !== 'label' && 'font-mono text-[13px]')}
                value={field[name] ?? ''}
                aria-invalid={error !== undefined || undefined}
                onChange={(event) =>
                  onChange({ [name]: isEmptied(name, event.target.value) ? undefined : event.target.value })
                }
              />
            )}
            {error !== undefined && <p className="mt-1 text-[13px] text-danger">{error}</p>}
          </td>
        );
      })}
      <td>
        <Button
          look="quiet"
          size="small"
          aria-label={say(SETTINGS.takeNameOut, { name: field.label || SETTINGS.theField })}
          onClick={onRemove}
        >
          <Trash2 className="size-3.5" aria-hidden />
        </Button>
      </td>
    </tr>
  );
}

type ColumnName = (typeof FIELD_COLUMNS)[number]['name'];

/** What may be left out is left out when its cell is emptied. */
function isEmptied(name: ColumnName, text: string): boolean {
  return text === '' && name !== 'name' && name !== 'label';
}

function problemIn(field: FieldResource, name: ColumnName): string | undefined {
  if (name !== 'value' && name !== 'staging' && name !== 'example') return undefined;
  const value = field[name];
  return value === undefined ? undefined : fieldValueProblem(field.type, value);
}
