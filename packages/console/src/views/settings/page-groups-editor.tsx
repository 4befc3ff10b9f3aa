import { keyFromName, pagePatternProblem, pageMatcher, type PageGroup } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { Plus, Trash2 } from 'lucide-react';
import { pagesQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { HelpLink } from '../../ui/help-link';
import { cn } from '../../ui/cn';
import { Field, inputStyle } from '../../ui/field';
import { SETTINGS } from '../../texts/settings';
import { say } from '../../texts/say';

interface PageGroupsEditorProps {
  site: string;
  groups: readonly PageGroup[];
  onChange: (groups: PageGroup[]) => void;
  errorAt: (pointer: string) => string | undefined;
}

/** Pages that belong together, with a name, so that many snippets can use them. */
export function PageGroupsEditor({ site, groups, onChange, errorAt }: PageGroupsEditorProps) {
  const known = useQuery(pagesQuery(site)).data?.paths ?? [];
  const set = (index: number, change: Partial<PageGroup>): void =>
    onChange(groups.map((group, i) => (i === index ? { ...group, ...change } : group)));
  return (
    <section className="space-y-3 rounded-xl border border-line bg-surface p-4 sm:p-5">
      <div>
        <h2 className="flex items-center gap-1.5">
          {SETTINGS.pageGroups} <HelpLink to="reach#in-short" subject={SETTINGS.pageGroups} />
        </h2>
        <p className="text-sm text-muted">{SETTINGS.pagesBelongTogether}</p>
      </div>
      {groups.map((group, index) => {
        const problems = group.patterns.flatMap((pattern) => pagePatternProblem(pattern) ?? []);
        const matcher = pageMatcher({ include: group.patterns, exclude: [] });
        const held = group.patterns.length === 0 ? [] : known.filter((path) => matcher.match(path).matches);
        return (
          <fieldset
            key={index}
            className="grid gap-3 border-t border-line pt-3 sm:grid-cols-[14rem_minmax(0,1fr)_auto]"
          >
            <legend className="sr-only">{say(SETTINGS.pageGroupIndex, { index: index + 1 })}</legend>
            <Field
              label={SETTINGS.nameGroup}
              required
              value={group.name}
              error={errorAt(`/pageGroups/${index}/name`) ?? errorAt(`/pageGroups/${index}/key`)}
              hint={group.key === '' ? undefined : `@${group.key}`}
              onChange={(event) => {
                const name = event.target.value;
                // A group that snippets may name already keeps its key.
                const isNew = group.key === '' || group.key === keyFromName(group.name);
                set(index, { name, ...(isNew ? { key: keyFromName(name) } : {}) });
              }}
            />
            <label className="space-y-1.5 text-sm font-medium">
              <span className="block">{SETTINGS.pagesOneEach}</span>
              <textarea
                rows={2}
                className={cn(inputStyle, 'font-mono')}
                placeholder={'/booking/confirmation'}
                defaultValue={group.patterns.join('\n')}
                onChange={(event) =>
                  set(index, { patterns: event.target.value.split(/\s+/).filter(Boolean) })
                }
              />
              <span
                className={cn(
                  'block text-[13px] font-normal',
                  problems.length > 0 || held.length === 0 ? 'text-danger' : 'text-muted',
                )}
              >
                {errorAt(`/pageGroups/${index}/patterns`) ??
                  problems[0] ??
                  say(held.length === 0 ? SETTINGS.holdsNone : SETTINGS.holds, {
                    count: held.length,
                    known: known.length,
                    some: held.slice(0, 5).join(', '),
                  })}
              </span>
            </label>
            <Button
              look="quiet"
              size="small"
              className="sm:mt-7"
              onClick={() => onChange(groups.filter((_, i) => i !== index))}
            >
              <Trash2 className="size-3.5" aria-hidden /> {SETTINGS.takeOut}
            </Button>
          </fieldset>
        );
      })}
      <Button onClick={() => onChange([...groups, { key: '', name: '', patterns: [] }])}>
        <Plus className="size-4" aria-hidden /> {SETTINGS.addPageGroup}
      </Button>
    </section>
  );
}
