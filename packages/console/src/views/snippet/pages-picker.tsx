import {
  PageMatcher,
  pagePatternProblem,
  pageRulesWords,
  withoutGroups,
  type PageRules,
} from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { RadioGroup } from 'radix-ui';
import { useId, useState } from 'react';
import { pagesQuery, siteQuery } from '../../api/queries';
import { Chip } from '../../ui/chip';
import { cn } from '../../ui/cn';
import { inputStyle } from '../../ui/field';
import { Folded } from '../../ui/folded';
import { capitalised } from './capitalised';
import { SNIPPET } from '../../texts/snippet';
import { say } from '../../texts/say';

type Mode = 'all' | 'only' | 'except';

const MODES: readonly { mode: Mode; label: string }[] = [
  { mode: 'all', label: SNIPPET.everyPage },
  { mode: 'only', label: SNIPPET.onlySomePages },
  { mode: 'except', label: SNIPPET.everyPageBut },
];

/** How many known pages are offered as buttons. */
const OFFERED = 40;

interface PagesPickerProps {
  site: string;
  pages: PageRules;
  onChange: (pages: { include: string[]; exclude: string[] }) => void;
}

/** On which pages; with the known pages at hand and a count of those that match. */
export function PagesPicker({ site, pages, onChange }: PagesPickerProps) {
  const id = useId();
  const known = useQuery(pagesQuery(site)).data?.paths ?? [];
  const groups = useQuery(siteQuery(site)).data?.data.pageGroups ?? [];
  const [mode, setMode] = useState<Mode>(
    pages.include.length > 0 ? 'only' : pages.exclude.length > 0 ? 'except' : 'all',
  );
  const [text, setText] = useState((mode === 'except' ? pages.exclude : pages.include).join('\n'));
  const apply = (nextMode: Mode, nextText: string): void => {
    setMode(nextMode);
    setText(nextText);
    const patterns = nextText.split(/\s+/).filter(Boolean);
    // What is excluded besides an include list came from elsewhere and is kept.
    const kept = nextMode === 'only' && mode === 'only' ? [...pages.exclude] : [];
    onChange({
      include: nextMode === 'only' ? patterns : [],
      exclude: nextMode === 'except' ? patterns : kept,
    });
  };
  const patterns = text.split(/\s+/).filter(Boolean);
  const toggle = (path: string): void =>
    apply(
      mode,
      (patterns.includes(path) ? patterns.filter((entry) => entry !== path) : [...patterns, path]).join('\n'),
    );
  const problems =
    mode === 'all'
      ? []
      : patterns.flatMap((pattern) =>
          pagePatternProblem(pattern) === undefined ? [] : [`${pattern}: ${pagePatternProblem(pattern)!}`],
        );
  const matcher = new PageMatcher(withoutGroups(pages, groups));
  const matching = known.filter((path) => matcher.match(path).matches).length;
  return (
    <Folded
      id="pages"
      title={SNIPPET.whichPages}
      help="reach#in-short"
      isForced={problems.length > 0 || (mode !== 'all' && patterns.length === 0)}
      summary={
        <>
          <strong className="font-semibold text-primary">{capitalised(pageRulesWords(pages, groups))}</strong>
          {known.length > 0 && (
            <span className={cn(matching === 0 && 'text-danger')}>
              {' · '}
              {matching === 0
                ? SNIPPET.noneKnownPages
                : say(SNIPPET.runsMatchingCount, { matching, count: known.length })}
            </span>
          )}
        </>
      }
    >
      <RadioGroup.Root
        value={mode}
        onValueChange={(value) => apply(value as Mode, text)}
        aria-label={SNIPPET.whichPages}
        className="flex flex-wrap gap-x-5 gap-y-2 text-sm"
      >
        {MODES.map((entry) => (
          <label key={entry.mode} className="flex items-center gap-2">
            <RadioGroup.Item
              value={entry.mode}
              className="grid size-4.5 place-items-center rounded-full border border-line-strong bg-raised"
            >
              <RadioGroup.Indicator className="size-2.5 rounded-full bg-primary" />
            </RadioGroup.Item>
            {entry.label}
          </label>
        ))}
      </RadioGroup.Root>
      {mode !== 'all' && (
        <div className="space-y-2">
          <label htmlFor={id} className="text-sm">
            {mode === 'only' ? SNIPPET.thesePagesOne : SNIPPET.notThesePages}
          </label>
          <textarea
            id={id}
            rows={Math.min(6, Math.max(2, patterns.length + 1))}
            className={cn(inputStyle, 'font-mono')}
            placeholder={'/booking\n/news/*\n//www.example.com/*'}
            value={text}
            aria-invalid={problems.length > 0 || undefined}
            onChange={(event) => apply(mode, event.target.value)}
          />
          {problems.map((problem) => (
            <p key={problem} className="text-[13px] text-danger">
              {problem}
            </p>
          ))}
          {groups.length > 0 && (
            <div className="flex flex-wrap gap-1.5" role="group" aria-label={SNIPPET.pageGroups}>
              {groups.map(({ key, name }) => (
                <Chip key={key} isOn={patterns.includes(`@${key}`)} onClick={() => toggle(`@${key}`)}>
                  {name}
                </Chip>
              ))}
            </div>
          )}
          {known.length > 1 && (
            <div className="flex flex-wrap gap-1.5" role="group" aria-label={SNIPPET.knownPages}>
              {known.slice(0, OFFERED).map((path) => (
                <button
                  key={path}
                  type="button"
                  aria-pressed={patterns.includes(path)}
                  onClick={() => toggle(path)}
                  className="rounded-full border border-line px-2 py-0.5 font-mono text-xs text-muted hover:border-primary aria-pressed:border-primary aria-pressed:bg-primary-soft aria-pressed:text-primary"
                >
                  {path}
                </button>
              ))}
            </div>
          )}
        </div>
      )}
    </Folded>
  );
}
