import { useCombobox } from 'downshift';
import { useState } from 'react';
import { COMMON } from '../texts/common';
import { say } from '../texts/say';
import { cn } from './cn';
import { inputStyle } from './field';
import { suggestedPages } from './suggested-pages';

interface PageComboboxProps {
  /** Of the field, for its label. */
  readonly id: string;
  /** The pages that are known. */
  readonly paths: readonly string[];
  readonly path: string;
  readonly onChoose: (path: string) => void;
  readonly className?: string;
}

/** Which page: a field that is typed into and a list that follows it. Any path may be typed, known or not. */
export function PageCombobox({ id, paths, path, onChoose, className }: PageComboboxProps) {
  const [typed, setTyped] = useState<string>();
  const isNarrowed = typed !== undefined && typed !== path;
  const items = suggestedPages(paths, isNarrowed ? typed : '');
  const choose = (text: string | undefined): void => {
    setTyped(undefined);
    const wanted = text?.trim() ?? '';
    if (wanted !== '' && wanted !== path) onChoose(wanted.startsWith('/') ? wanted : `/${wanted}`);
  };
  const box = useCombobox<string>({
    items,
    inputId: id,
    inputValue: typed ?? path,
    selectedItem: null,
    itemToString: (item) => item ?? '',
    onStateChange: ({ type, selectedItem }) => {
      if (selectedItem) choose(selectedItem);
      else if (type === useCombobox.stateChangeTypes.InputKeyDownEscape) setTyped(undefined);
    },
    stateReducer: (_, { type, changes }) =>
      // Only what was pressed or pointed at is chosen; leaving the field takes what stands in it.
      type === useCombobox.stateChangeTypes.InputBlur ? { ...changes, selectedItem: null } : changes,
  });
  const typedPage = (): string | undefined =>
    typed === undefined || typed.trim().startsWith('/') ? typed : (items[0] ?? typed);
  return (
    <div className={cn('relative', className)}>
      <input
        {...box.getInputProps({
          // The label stands outside; it names the field by its id.
          'aria-labelledby': undefined,
          spellCheck: false,
          placeholder: COMMON.findPage,
          onFocus: (event) => event.currentTarget.select(),
          onChange: (event) => setTyped(event.currentTarget.value),
          onKeyDown: (event) => {
            if (event.key !== 'Enter' || box.highlightedIndex >= 0) return;
            if (isNarrowed) event.preventDefault();
            choose(typedPage());
            box.closeMenu();
          },
          // Half a word is no page.
          onBlur: () => choose(typed?.trim().startsWith('/') ? typed : undefined),
        })}
        className={cn(inputStyle, 'h-full font-mono text-[13px]')}
      />
      <ul
        {...box.getMenuProps({ 'aria-label': COMMON.suggestions })}
        className={cn(
          'absolute z-20 mt-1 max-h-80 w-max max-w-[min(32rem,85vw)] min-w-full overflow-auto rounded-lg border border-line bg-surface py-1 shadow-card',
          !(box.isOpen && items.length > 0) && 'hidden',
        )}
      >
        {box.isOpen &&
          items.map((item, index) => (
            <li
              key={item}
              {...box.getItemProps({ item, index })}
              className={cn(
                'cursor-pointer truncate px-3 py-1.5 font-mono text-[13px]',
                index === box.highlightedIndex && 'bg-primary-soft text-primary',
                item === path && 'font-semibold',
              )}
            >
              {item}
            </li>
          ))}
        {box.isOpen && !isNarrowed && items.length < paths.length && (
          <li role="presentation" className="border-t border-line px-3 pt-1.5 pb-1 text-[13px] text-muted">
            {say(COMMON.somePages, { shown: items.length, count: paths.length })}
          </li>
        )}
      </ul>
    </div>
  );
}
