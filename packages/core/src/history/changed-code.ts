import { partKey, type SnapshotSnippet } from '../snapshot/index.js';
import type { DraftChange, Values } from './draft-change.js';

/** Code of a part that a change made another; empty on one side where the part is new or gone. */
export interface ChangedCode {
  /** `snippet/number` */
  readonly part: string;
  readonly before: string;
  readonly after: string;
}

/** Code that a change made another, part by part. */
export function changedCode({ kind, key, before, after }: DraftChange): ChangedCode[] {
  if (kind === 'site') return [];
  const [was, is] = [codeByIndex(before), codeByIndex(after)];
  return [...new Set([...was.keys(), ...is.keys()])]
    .filter((index) => was.get(index) !== is.get(index))
    .map((index) => ({
      part: partKey(key, index),
      before: was.get(index) ?? '',
      after: is.get(index) ?? '',
    }));
}

/** By the part's place in the snippet, from 0. @param values - whole, or only the paths that differ */
function codeByIndex(values: SnapshotSnippet | Values | null): Map<number, string> {
  if (!values) return new Map();
  const parts = (values as Partial<SnapshotSnippet>).parts;
  if (parts) return new Map(parts.map(({ code }, index) => [index, code]));
  return new Map(
    Object.entries(values).flatMap(([path, value]): [number, string][] => {
      const number = /^parts\/(\d{1,9})\/code$/.exec(path)?.[1];
      return number === undefined ? [] : [[Number(number) - 1, String(value)]];
    }),
  );
}
