import type { FindingResource, PagePlanResource } from '@pragmatica/contract';
import { isAnchor, placementKey, type Change, type Placement, type Snapshot } from '@pragmatica/core';

export type PlannedPart = PagePlanResource['parts'][number];

/** What a strip is drawn from. */
export interface StripData {
  readonly site: string;
  readonly plan: PagePlanResource;
  readonly draft: { readonly data: { readonly snapshot: Snapshot }; readonly etag: string };
  readonly changes: readonly Change[];
  readonly findings: readonly FindingResource[];
  readonly isEditable: boolean;
}

/** What the slots need to know of each part besides the part. */
export interface StripContext {
  readonly site: string;
  readonly snapshot: Snapshot;
  readonly etag: string;
  readonly isEditable: boolean;
  /** Keys of snippets that the draft changes. */
  readonly changed: ReadonlySet<string>;
  /** Position of each part on the page, from 1. */
  readonly position: ReadonlyMap<string, number>;
  /** What is wrong or doubtful, by the part that it is about. */
  readonly findings: ReadonlyMap<string, readonly FindingResource[]>;
}

export function stripContext({ site, plan, draft, changes, findings, isEditable }: StripData): StripContext {
  return {
    site,
    snapshot: draft.data.snapshot,
    etag: draft.etag,
    isEditable,
    changed: new Set(changes.map(({ snippet }) => snippet)),
    position: new Map(plan.parts.map(({ key }, index) => [key, index + 1])),
    findings: byPart(findings),
  };
}

/** Errors and warnings by part; advice has no place on the strip. */
function byPart(findings: readonly FindingResource[]): Map<string, FindingResource[]> {
  const found = new Map<string, FindingResource[]>();
  for (const finding of findings) {
    if (finding.severity === 'advice') continue;
    for (const { part } of finding.subjects)
      if (part !== undefined) found.set(part, [...(found.get(part) ?? []), finding]);
  }
  return found;
}

export function partsAt(parts: readonly PlannedPart[], placement: Placement): PlannedPart[] {
  return parts.filter((part) => placementKey(part.placement) === placementKey(placement));
}

/** The elements that parts stand at, each once, in page order. */
export function anchorsOf(parts: readonly PlannedPart[]): Placement[] {
  const anchors = parts.map(({ placement }) => placement).filter(isAnchor);
  return [...new Map(anchors.map((placement) => [placementKey(placement), placement])).values()];
}
