import type { SnippetResource } from '@pragmatica/contract';
import type { Limits, PartPer, Placement, SnapshotSnippet } from '@pragmatica/core';

export interface PartValue {
  readonly placement: Placement;
  readonly code: string;
  readonly statement: string;
  readonly per: PartPer;
}

/** What the form edits; the server's rules are the only ones. */
export interface SnippetValue {
  readonly name: string;
  readonly provider: string;
  readonly purpose: string;
  readonly note: string;
  readonly pages: { include: string[]; exclude: string[] };
  readonly limits: Limits;
  readonly needs: string[];
  readonly parts: PartValue[];
}

export const EMPTY_SNIPPET: SnippetValue = {
  name: '',
  provider: '',
  purpose: '',
  note: '',
  pages: { include: [], exclude: [] },
  limits: {},
  needs: [],
  parts: [{ placement: 'body-end', code: '', statement: '', per: 'load' }],
};

/** The same as core has it, to be compared with others. */
export function asSnippet({ parts, ...value }: SnippetValue): SnapshotSnippet {
  return { key: '', state: 'on', ...value, parts: parts.map((part) => ({ ...part, rank: 0 })) };
}

type Stored = Omit<SnippetResource, 'version' | 'updatedBy' | 'updatedAt'> | SnapshotSnippet;

/** What the form shows of a snippet, from the draft or from a release. */
export function toValue({
  name,
  provider,
  purpose,
  note,
  pages,
  limits = {},
  needs = [],
  parts,
}: Stored): SnippetValue {
  return {
    name,
    provider,
    purpose,
    note,
    pages: { include: [...pages.include], exclude: [...pages.exclude] },
    limits: limits,
    needs: [...needs],
    parts: parts.map(({ placement, code, statement = '', per = 'load' }) => ({
      ...{ placement, code, statement, per },
    })),
  };
}
