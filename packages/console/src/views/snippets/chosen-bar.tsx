import type { SnippetResource } from '@pragmatica/contract';
import type { SnippetState } from '@pragmatica/core';
import { useSwitchSnippets } from '../../api/mutations';
import { say } from '../../texts/say';
import { SNIPPETS } from '../../texts/snippets';
import { Button } from '../../ui/button';
import { useToast } from '../../ui/toast';
import { CopyButton } from '../snippet/copy-dialog';
import { MoveButton } from './move-button';

interface ChosenBarProps {
  readonly site: string;
  readonly chosen: readonly SnippetResource[];
  readonly onDone: () => void;
}

const SAID = {
  on: SNIPPETS.switchedOn,
  off: SNIPPETS.switchedOff,
  archived: SNIPPETS.putAway,
} as const;

/** What can be done with several snippets at once; it can be undone from the message. */
export function ChosenBar({ site, chosen, onDone }: ChosenBarProps) {
  const change = useSwitchSnippets(site);
  const toast = useToast();
  if (chosen.length === 0) return <span className="text-[13px] text-muted">{SNIPPETS.chooseAll}</span>;
  const keys = chosen.map(({ key }) => key);
  const before = (['on', 'off', 'archived'] as const).map((state) => ({
    state,
    snippets: chosen.filter((snippet) => snippet.state === state).map(({ key }) => key),
  }));
  const set = (state: SnippetState): void =>
    change.run([{ snippets: keys, state }], () => {
      toast({
        tone: 'done',
        title: say(SAID[state], { count: keys.length }),
        action: {
          label: SNIPPETS.undo,
          run: () => change.run(before.filter(({ snippets }) => snippets.length > 0)),
        },
      });
      onDone();
    });
  const isArchiveOnly = chosen.every(({ state }) => state === 'archived');
  return (
    <>
      <span role="status" className="text-sm font-medium">
        {say(SNIPPETS.chosen, { count: chosen.length })}
      </span>
      {isArchiveOnly ? (
        <Button size="small" needs="edit" isBusy={change.isPending} onClick={() => set('off')}>
          {SNIPPETS.bringBack}
        </Button>
      ) : (
        <>
          <Button size="small" needs="edit" isBusy={change.isPending} onClick={() => set('on')}>
            {SNIPPETS.switchOn}
          </Button>
          <Button size="small" needs="edit" isBusy={change.isPending} onClick={() => set('off')}>
            {SNIPPETS.switchOff}
          </Button>
          <MoveButton site={site} chosen={chosen} onDone={onDone} />
          <CopyButton site={site} snippets={chosen} size="small" />
          <Button size="small" needs="edit" isBusy={change.isPending} onClick={() => set('archived')}>
            {SNIPPETS.archive}
          </Button>
        </>
      )}
      <Button size="small" look="quiet" onClick={onDone}>
        {SNIPPETS.clear}
      </Button>
    </>
  );
}
