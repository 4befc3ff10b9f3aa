import type { Change } from '@pragmatica/core';

export function ChangeList({ changes }: { changes: readonly Change[] }) {
  return (
    <ul className="mt-1.5 list-disc space-y-1 pl-4 text-sm">
      {changes.map((change, index) => (
        <li key={index}>{change.message}</li>
      ))}
    </ul>
  );
}
