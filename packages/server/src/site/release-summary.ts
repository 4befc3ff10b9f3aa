import { ENVIRONMENTS, type ReleaseSummary } from '@pragmatica/contract';
import type { Pointer, Release } from '../storage/rows.js';
import type { ReleaseHead } from '../storage/releases.js';

/** What lists say of a release. @param pointers - of its site */
export function releaseSummary(
  release: ReleaseHead & Pick<Release, 'id' | 'number' | 'createdAt'>,
  pointers: readonly Pointer[],
): ReleaseSummary {
  const { number, message, author, createdAt, digest, snippetsOn, forced } = release;
  return {
    number,
    message,
    author,
    createdAt: createdAt.toISOString(),
    digest,
    environments: ENVIRONMENTS.filter((environment) =>
      pointers.some((pointer) => pointer.environment === environment && pointer.release.id === release.id),
    ),
    snippets: snippetsOn,
    forced: forced ?? null,
  };
}
