import type { SnippetResource } from '@pragmatica/contract';
import { mergeSnippets, type MergeChoice, type MergeConflict, type SnapshotSnippet } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { siteQuery } from '../../api/queries';
import { rich } from '../../texts/rich';
import { say } from '../../texts/say';
import { SNIPPET } from '../../texts/snippet';
import { FormDialog } from '../../ui/form-dialog';
import { RadioList } from '../../ui/radio-list';
import { Time } from '../../ui/time';
import { CodeDifference } from '../findings/code-difference';
import { asSnippet, toValue, type SnippetValue } from './snippet-value';

interface MergeDialogProps {
  readonly site: string;
  /** As both found it. */
  readonly base: SnippetResource;
  /** As somebody else has saved it since. */
  readonly theirs: SnippetResource;
  readonly yours: SnippetValue;
  readonly isBusy: boolean;
  readonly error: Error | null;
  readonly onSave: (merged: SnippetValue) => void;
  readonly onClose: () => void;
}

/** What two people have changed at once, and whose is to stay where it is the same thing. */
export function MergeDialog({ site, base, theirs, yours, isBusy, error, onSave, onClose }: MergeDialogProps) {
  const definitions = useQuery(siteQuery(site)).data?.data;
  const [choices, setChoices] = useState<Record<string, MergeChoice>>({});
  if (!definitions) return null;
  const versions = [asSnippet(toValue(base)), asSnippet(toValue(theirs)), asSnippet(yours)] as const;
  const merge = mergeSnippets(...versions, siteOf(definitions), choices);
  const name = theirs.updatedBy;
  const isDecided = merge.conflicts.every(({ id }) => choices[id] !== undefined);
  return (
    <FormDialog
      title={SNIPPET.mergeTitle}
      description={rich(SNIPPET.mergeLead, { name, time: <Time at={theirs.updatedAt} /> })}
      isOpen
      onOpenChange={(isOpen) => !isOpen && onClose()}
      leave={SNIPPET.mergeLeave}
      submit={SNIPPET.mergeSave}
      isBusy={isBusy}
      isDisabled={!isDecided}
      error={error}
      onSubmit={() => onSave(toValue(merge.snippet))}
    >
      <ul className="list-disc space-y-0.5 pl-5 text-sm">
        {merge.theirs.length > 0 && <li>{say(SNIPPET.onlyTheirs, { name, what: merge.theirs })}</li>}
        {merge.yours.length > 0 && <li>{say(SNIPPET.onlyYours, { what: merge.yours })}</li>}
      </ul>
      {merge.conflicts.length > 0 && (
        <div className="space-y-3">
          <p className="text-sm font-medium">{SNIPPET.bothChanged}</p>
          {merge.conflicts.map((conflict) => (
            <Conflict
              key={conflict.id}
              conflict={conflict}
              name={name}
              code={codesAt(conflict.id, versions)}
              choice={choices[conflict.id]}
              onChange={(choice) => setChoices({ ...choices, [conflict.id]: choice })}
            />
          ))}
        </div>
      )}
    </FormDialog>
  );
}

type Definitions = Parameters<typeof mergeSnippets>[3];

function siteOf({
  key,
  name,
  timeZone,
  pageGroups,
  consent,
}: {
  readonly key: string;
  readonly name: string;
  readonly timeZone: string;
  readonly pageGroups: Definitions['pageGroups'];
  readonly consent: Definitions['consent'] | null;
}): Definitions {
  return { key, name, timeZone, ...(pageGroups ? { pageGroups } : {}), ...(consent ? { consent } : {}) };
}

interface ConflictProps {
  readonly conflict: MergeConflict;
  /** Of whoever saved it. */
  readonly name: string;
  /** Both texts, where it is code. */
  readonly code: { readonly theirs: string; readonly yours: string } | undefined;
  readonly choice: MergeChoice | undefined;
  readonly onChange: (choice: MergeChoice) => void;
}

function Conflict({ conflict, name, code, choice, onChange }: ConflictProps) {
  const { what, theirs, yours, both } = conflict;
  const options = [
    { value: 'yours' as const, text: say(SNIPPET.yours, { value: yours }) },
    { value: 'theirs' as const, text: say(SNIPPET.theirs, { name, value: theirs }) },
    ...(both === undefined ? [] : [{ value: 'both' as const, text: say(SNIPPET.both, { value: both }) }]),
  ];
  return (
    <fieldset className="rounded-lg border border-line p-3">
      <legend className="px-1 text-sm font-medium">{what}</legend>
      <RadioList label={what} options={options} value={choice} onChange={onChange} />
      {code && (
        <div className="mt-2">
          <CodeDifference title={say(SNIPPET.codeFromTo, { name })} before={code.theirs} after={code.yours} />
        </div>
      )}
    </fieldset>
  );
}

function codesAt(
  path: string,
  [, theirs, yours]: readonly [SnapshotSnippet, SnapshotSnippet, SnapshotSnippet],
): ConflictProps['code'] {
  const [, number, name] = path.split('/');
  if (name !== 'code') return undefined;
  const at = Number(number) - 1;
  return { theirs: theirs.parts[at]!.code, yours: yours.parts[at]!.code };
}
