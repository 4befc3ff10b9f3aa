import type { SiteSummaryResource } from '@pragmatica/contract';
import { Field, inputStyle } from '../../ui/field';
import { cn } from '../../ui/cn';
import {
  typedKey,
  typedProblem,
  typedValue,
  type RecipeFieldResource,
  type Typed,
  type ValuePlace,
} from './given-values';
import { RECIPES } from '../../texts/recipes';
import { say } from '../../texts/say';

interface ValuesFormProps {
  readonly sites: readonly SiteSummaryResource[];
  readonly fields: readonly RecipeFieldResource[];
  readonly typed: Typed;
  readonly onType: (typed: Typed) => void;
}

/** The values that a recipe asks for: a form for one site, a table for several. */
export function ValuesForm({ sites, fields, typed, onType }: ValuesFormProps) {
  const type = (site: string, field: string, place: ValuePlace, value: string): void =>
    onType(new Map([...typed, [typedKey(site, field, place), value]]));
  if (fields.length === 0) return <p className="text-sm text-muted">{RECIPES.recipeAsksNothing}</p>;
  const [only] = sites;
  if (sites.length === 1 && only) return <OneSite {...{ site: only, fields, typed, type }} />;
  return (
    <div className="overflow-x-auto">
      <table className="w-full min-w-120 table-fixed text-sm">
        <thead className="text-left text-muted">
          <tr>
            <th scope="col" className="py-1.5 pr-3 font-medium">
              {RECIPES.site}
            </th>
            {fields.map(({ name, label }) => (
              <th key={name} scope="col" className="px-1.5 py-1.5 font-medium">
                {label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sites.map((site) => (
            <tr key={site.key}>
              <th scope="row" className="py-1.5 pr-3 text-left font-medium">
                {site.name}
              </th>
              {fields.map((field) => {
                const problem = typedProblem(typed, site.key, field, 'value');
                return (
                  <td key={field.name} className="px-1.5 py-1.5 align-top">
                    <input
                      aria-label={`${field.label}, ${site.name}`}
                      className={cn(inputStyle, 'h-9 py-1')}
                      placeholder={field.example}
                      aria-invalid={problem !== undefined || undefined}
                      value={typedValue(typed, site.key, field, 'value')}
                      onChange={(event) => type(site.key, field.name, 'value', event.target.value)}
                    />
                    {problem !== undefined && <p className="mt-1 text-[13px] text-danger">{problem}</p>}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface OneSiteProps {
  readonly site: SiteSummaryResource;
  readonly fields: readonly RecipeFieldResource[];
  readonly typed: Typed;
  readonly type: (site: string, field: string, place: ValuePlace, value: string) => void;
}

function OneSite({ site, fields, typed, type }: OneSiteProps) {
  const hasStaging = site.hosts.some(({ environment }) => environment === 'staging');
  return (
    <div className="space-y-4">
      {fields.map((field) => (
        <div key={field.name} className={cn('grid gap-3', hasStaging && 'sm:grid-cols-2')}>
          <Field
            label={field.label}
            placeholder={field.example === undefined ? '' : `for example ${field.example}`}
            hint={field.help}
            error={typedProblem(typed, site.key, field, 'value')}
            value={typedValue(typed, site.key, field, 'value')}
            onChange={(event) => type(site.key, field.name, 'value', event.target.value)}
          />
          {hasStaging && (
            <Field
              label={say(RECIPES.labelStaging, { label: field.label })}
              placeholder={RECIPES.sameOnStaging}
              error={typedProblem(typed, site.key, field, 'staging')}
              value={typedValue(typed, site.key, field, 'staging')}
              onChange={(event) => type(site.key, field.name, 'staging', event.target.value)}
            />
          )}
        </div>
      ))}
    </div>
  );
}
