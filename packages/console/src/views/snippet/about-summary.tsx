import { useQuery } from '@tanstack/react-query';
import { draftQuery } from '../../api/queries';
import { say } from '../../texts/say';
import { SNIPPET } from '../../texts/snippet';
import type { SnippetValue } from './snippet-value';

interface AboutSummaryProps {
  readonly site: string;
  readonly value: SnippetValue;
}

/** What a snippet is called, whom it is from, what it is for, and what it waits for, in one line. */
export function AboutSummary({ site, value: { name, provider, purpose, note, needs } }: AboutSummaryProps) {
  const snippets = useQuery(draftQuery(site)).data?.data.snapshot.snippets ?? [];
  if (name.trim() === '') return SNIPPET.nameComesFromCode;
  const names = needs.map((key) => snippets.find((snippet) => snippet.key === key)?.name ?? key);
  const facts = [
    provider,
    purpose,
    note,
    ...(names.length > 0 ? [say(SNIPPET.comesAfter, { names })] : []),
  ].filter((fact) => fact.trim() !== '');
  return (
    <>
      <strong className="font-semibold text-primary">{name}</strong>
      {facts.map((fact) => ` · ${fact}`).join('')}
    </>
  );
}
