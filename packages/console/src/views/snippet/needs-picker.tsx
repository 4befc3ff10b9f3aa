import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useId } from 'react';
import { draftQuery } from '../../api/queries';
import { inputStyle } from '../../ui/field';
import { say } from '../../texts/say';
import { SNIPPET } from '../../texts/snippet';

interface NeedsPickerProps {
  readonly site: string;
  /** The snippet itself, which cannot need itself. */
  readonly self: string;
  readonly needs: readonly string[];
  readonly onChange: (needs: string[]) => void;
}

/** Which snippets must run before this one. What the code itself needs is found without it. */
export function NeedsPicker({ site, self, needs, onChange }: NeedsPickerProps) {
  const id = useId();
  const snippets = useQuery(draftQuery(site)).data?.data.snapshot.snippets ?? [];
  const nameOf = (key: string): string => snippets.find((snippet) => snippet.key === key)?.name ?? key;
  const offered = snippets.filter(({ key }) => key !== self && !needs.includes(key));
  return (
    <div className="space-y-1.5">
      <label htmlFor={id} className="block text-sm font-medium">
        {SNIPPET.mustComeAfter}
      </label>
      {needs.length > 0 && (
        <ul className="flex flex-wrap gap-1.5">
          {needs.map((key) => (
            <li
              key={key}
              className="flex items-center gap-1 rounded-full bg-primary-soft py-0.5 pr-1 pl-2.5 text-[13px]"
            >
              {nameOf(key)}
              <button
                type="button"
                aria-label={say(SNIPPET.needNotComeFirst, { name: nameOf(key) })}
                className="rounded-full p-0.5 hover:bg-line"
                onClick={() => onChange(needs.filter((other) => other !== key))}
              >
                <X className="size-3.5" aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
      <select
        id={id}
        className={inputStyle}
        value=""
        disabled={offered.length === 0}
        onChange={(event) => onChange([...needs, event.target.value])}
      >
        <option value="">{needs.length === 0 ? SNIPPET.nothingParticular : SNIPPET.andMore}</option>
        {offered.map(({ key, name }) => (
          <option key={key} value={key}>
            {name}
          </option>
        ))}
      </select>
      <p className="text-[13px] text-muted">{SNIPPET.onlyIfYou}</p>
    </div>
  );
}
