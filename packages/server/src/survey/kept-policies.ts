import type { DeclaredPolicy, PagePolicies } from '@pragmatica/core';

/** A page's policies as a survey keeps them; surveys before the reader's fourth version kept content policies alone. */
export function keptPolicies(body: string): PagePolicies {
  const kept = JSON.parse(body) as PagePolicies | DeclaredPolicy[];
  return Array.isArray(kept) ? { policies: kept } : kept;
}
