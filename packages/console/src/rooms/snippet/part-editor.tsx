import { containmentProblem, type SuggestedPart } from '@pragmatica/core';
import { CircleCheck, TriangleAlert } from 'lucide-react';
import { useDeferredValue, useMemo } from 'react';
import { CodeEditor } from '../../ui/code-editor';
import { PlacementPicker } from './placement-picker';
import { ReadingPanel } from './reading-panel';
import type { PartValue } from './snippet-form';

interface PartEditorProps {
  part: PartValue;
  onChange: (part: PartValue) => void;
  error: string | undefined;
  onSplit: ((parts: readonly SuggestedPart[]) => void) | undefined;
}

/** One piece of code with its place. Whether it would change the page around it is said while it is typed. */
export function PartEditor({ part, onChange, error, onSplit }: PartEditorProps) {
  const deferred = useDeferredValue(part);
  const problem = useMemo(() => containmentProblem(deferred.code, deferred.placement), [deferred]);
  const isEmpty = part.code.trim() === '';
  return (
    <div className="grid gap-5 md:grid-cols-[minmax(0,1fr)_15rem]">
      <div className="space-y-2">
        <CodeEditor
          label="Code"
          placeholder="Paste the code that the provider gave you"
          value={part.code}
          onChange={(code) => onChange({ ...part, code })}
        />
        <div aria-live="polite" className="text-[13px]">
          {error !== undefined && <p className="text-danger">{error}</p>}
          {!isEmpty && problem && (
            <p className="flex gap-1.5 text-danger">
              <TriangleAlert className="mt-0.5 size-4 shrink-0" aria-hidden />{' '}
              <span>It cannot be published like this. {problem.message}</span>
            </p>
          )}
          {!isEmpty && !problem && (
            <p className="flex gap-1.5 text-good">
              <CircleCheck className="mt-0.5 size-4 shrink-0" aria-hidden /> It leaves the page around it as
              it is.
            </p>
          )}
        </div>
        <ReadingPanel
          part={part}
          onPlace={(placement) => onChange({ ...part, placement })}
          onSplit={onSplit}
        />
      </div>
      <PlacementPicker
        placement={part.placement}
        onChange={(placement) => onChange({ ...part, placement })}
      />
    </div>
  );
}
