import { useId, useState } from 'react';
import { STRIP } from '../../texts/strip';
import { cn } from '../../ui/cn';
import { inputStyle } from '../../ui/field';
import { suggestedPages } from './suggested-pages';

interface PageChooserProps {
  readonly id: string;
  readonly paths: readonly string[];
  readonly path: string;
  readonly onChoose: (path: string) => void;
}

/** More pages than this are searched, not looked through. */
const MANY = 60;

const LOOK = 'h-9 w-auto max-w-full min-w-40 py-1 font-mono text-[13px]';

/** Which page: a list of a few, a search among many. Any path may be typed, known or not. */
export function PageChooser({ id, paths, path, onChoose }: PageChooserProps) {
  if (paths.length > MANY)
    return <PageSearch key={path} id={id} paths={paths} path={path} onChoose={onChoose} />;
  const shown = paths.includes(path) ? paths : [path, ...paths];
  return (
    <select
      id={id}
      className={cn(inputStyle, LOOK)}
      value={path}
      onChange={(event) => onChoose(event.target.value)}
    >
      {shown.map((entry) => (
        <option key={entry}>{entry}</option>
      ))}
    </select>
  );
}

function PageSearch({ id, paths, path, onChoose }: PageChooserProps) {
  const [typed, setTyped] = useState(path);
  const listId = useId();
  const known = new Set(paths);
  const choose = (text: string): void => {
    const wanted = text.trim();
    if (wanted.startsWith('/') && wanted !== path) onChoose(wanted);
    else setTyped(path);
  };
  return (
    <>
      <input
        id={id}
        list={listId}
        autoComplete="off"
        spellCheck={false}
        placeholder={STRIP.findPage}
        className={cn(inputStyle, LOOK, 'w-80')}
        value={typed}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setTyped(event.target.value);
          // Taken from the list: nothing is left to type.
          if (known.has(event.target.value)) onChoose(event.target.value);
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter') choose(typed);
          if (event.key === 'Escape') setTyped(path);
        }}
        onBlur={() => choose(typed)}
      />
      <datalist id={listId}>
        {suggestedPages(paths, typed).map((entry) => (
          <option key={entry} value={entry} />
        ))}
      </datalist>
    </>
  );
}
