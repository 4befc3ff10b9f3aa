import type { Right } from '@pragmatica/core';
import { Eye } from 'lucide-react';
import { Link } from 'react-router';
import { MEMBERS } from '../texts/members';

/** What somebody cannot do at a site, once, above all that it holds; nothing for those who can do everything that counts. */
export function RightsNote({ rights }: { rights: readonly Right[] }) {
  const [mayEdit, mayPublish] = [rights.includes('edit'), rights.includes('publish')];
  if (mayEdit && mayPublish) return null;
  const text = mayEdit ? MEMBERS.onlyEdit : mayPublish ? MEMBERS.onlyPublish : MEMBERS.onlyView;
  return (
    <p className="mb-3 flex flex-wrap items-center gap-x-2 rounded-lg border border-line bg-surface px-3 py-2 text-sm text-muted">
      <Eye className="size-4 shrink-0" aria-hidden />
      {text}
      <Link to="settings/people" className="underline">
        {MEMBERS.whoCan}
      </Link>
    </p>
  );
}
