import { useQuery } from '@tanstack/react-query';
import { useId, useRef, type KeyboardEvent } from 'react';
import { siteMembersQuery } from '../../api/members';
import { COMMENTS } from '../../texts/comments';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { inputStyle } from '../../ui/field';
import { Labelled } from '../../ui/labelled';
import { mentionAt, withMention } from './mention-at';

/** So many people are offered at once; whoever types has fewer. */
const OFFERED = 6;

interface WordsFieldProps {
  readonly site: string;
  readonly label: string;
  readonly value: string;
  readonly error?: string | undefined;
  readonly onChange: (value: string) => void;
  readonly onSubmit: () => void;
}

/** Where a comment is written, with those who can be mentioned. */
export function WordsField({ site, label, value, error, onChange, onSubmit }: WordsFieldProps) {
  const id = useId();
  const field = useRef<HTMLTextAreaElement>(null);
  const members = useQuery(siteMembersQuery(site)).data ?? [];
  const caret = field.current?.selectionStart ?? value.length;
  const typed = mentionAt(value, caret);
  const offered = members
    .filter(({ isYou, login, name }) => !isYou && fits(typed?.typed ?? '', login, name))
    .slice(0, OFFERED);
  const mention = (login: string): void => {
    const next = withMention(value, field.current?.selectionStart ?? value.length, login);
    onChange(next.text);
    requestAnimationFrame(() => {
      field.current?.focus();
      field.current?.setSelectionRange(next.caret, next.caret);
    });
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      onSubmit();
    }
  };
  return (
    <div className="space-y-1.5">
      <Labelled id={id} label={label} hint={COMMENTS.hint} error={error}>
        <textarea
          id={id}
          ref={field}
          className={inputStyle}
          rows={value === '' ? 2 : 4}
          maxLength={4_000}
          value={value}
          aria-describedby={`${id}-note`}
          aria-invalid={error !== undefined || undefined}
          onChange={(event) => onChange(event.target.value)}
          onKeyDown={onKeyDown}
        />
      </Labelled>
      {offered.length > 0 && (value !== '' || typed !== undefined) && (
        <div
          role="group"
          aria-label={COMMENTS.mention}
          className="flex flex-wrap items-center gap-1 text-[13px]"
        >
          <span className="text-muted">{COMMENTS.mention}</span>
          {offered.map(({ login, name }) => (
            <Button
              key={login}
              size="small"
              aria-label={say(COMMENTS.mentionOf, { name })}
              onClick={() => mention(login)}
            >
              {name}
            </Button>
          ))}
        </div>
      )}
    </div>
  );
}

function fits(typed: string, login: string, name: string): boolean {
  const words = [login, ...name.split(' ')].map((word) => word.toLowerCase());
  return words.some((word) => word.startsWith(typed.toLowerCase()));
}
