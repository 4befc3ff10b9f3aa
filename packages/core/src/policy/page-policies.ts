import type { DeclaredPolicy } from './content-policy.js';
import { policiesIn } from './extend.js';

/** What a page says of what may happen in it. */
export interface PagePolicies {
  /** Content policies, all of which hold. */
  readonly policies: readonly DeclaredPolicy[];
  /** Its header `Permissions-Policy`, as it is sent. */
  readonly permissionsPolicy?: string;
  /** Its header `Cross-Origin-Embedder-Policy`, as it is sent. */
  readonly embedderPolicy?: string;
}

/** What a page's headers say. @param headers - by names in lower case */
export function headerPolicies(headers: Readonly<Record<string, string | undefined>>): PagePolicies {
  const permissionsPolicy = headers['permissions-policy'];
  const embedderPolicy = headers['cross-origin-embedder-policy'];
  return {
    policies: (['content-security-policy', 'content-security-policy-report-only'] as const).flatMap((name) =>
      policiesIn(headers[name] ?? '').map((value) => ({
        value,
        from: 'header' as const,
        isReportOnly: name.endsWith('only'),
      })),
    ),
    ...(permissionsPolicy ? { permissionsPolicy } : {}),
    ...(embedderPolicy ? { embedderPolicy } : {}),
  };
}

/** Only that of something larger. */
export function pagePolicies({ policies, permissionsPolicy, embedderPolicy }: PagePolicies): PagePolicies {
  return {
    policies,
    ...(permissionsPolicy === undefined ? {} : { permissionsPolicy }),
    ...(embedderPolicy === undefined ? {} : { embedderPolicy }),
  };
}

/** Whether a page says nothing at all. */
export function isWithoutPolicies({ policies, permissionsPolicy, embedderPolicy }: PagePolicies): boolean {
  return policies.length === 0 && permissionsPolicy === undefined && embedderPolicy === undefined;
}
