import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { allSitesQuery } from '../../api/site-lists';
import { MEMBERS } from '../../texts/members';
import { SearchField } from '../../ui/search-field';

/** So many sites are listed before somebody has searched. */
const LISTED = 60;

interface SitePickerProps {
  readonly chosen: ReadonlySet<string>;
  readonly onChange: (chosen: ReadonlySet<string>) => void;
  /** Only sites of which this is true. */
  readonly may?: (rights: readonly string[]) => boolean;
}

/** A choice of several sites; those that are chosen stay in sight. */
export function SitePicker({ chosen, onChange, may = () => true }: SitePickerProps) {
  const sites = useQuery(allSitesQuery);
  const [searched, setSearched] = useState('');
  const words = searched.toLowerCase().split(/\s/).filter(Boolean);
  const fits = (sites.data ?? []).filter(
    ({ key, name, rights }) =>
      may(rights) &&
      (chosen.has(key) || words.every((word) => `${key} ${name}`.toLowerCase().includes(word))),
  );
  const toggle = (key: string): void => {
    const next = new Set(chosen);
    if (!next.delete(key)) next.add(key);
    onChange(next);
  };
  return (
    <fieldset className="space-y-1.5">
      <legend className="text-sm font-medium">{MEMBERS.sites}</legend>
      {(sites.data?.length ?? 0) > 8 && (
        <SearchField
          label={MEMBERS.findSite}
          placeholder={MEMBERS.findSite}
          value={searched}
          onChange={setSearched}
        />
      )}
      <ul className="max-h-48 overflow-y-auto rounded-md border border-line-strong bg-raised p-1.5">
        {fits.slice(0, LISTED).map(({ key, name }) => (
          <li key={key}>
            <label className="flex items-center gap-2 rounded px-1.5 py-1 text-sm">
              <input
                type="checkbox"
                checked={chosen.has(key)}
                onChange={() => toggle(key)}
                className="size-4 accent-(--primary)"
              />
              {name}
            </label>
          </li>
        ))}
      </ul>
    </fieldset>
  );
}
