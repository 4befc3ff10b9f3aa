import { useQuery, useQueryClient } from '@tanstack/react-query';
import { languagesQuery, speak } from '../../api/languages';
import { sessionQuery } from '../../api/queries';
import { SIGN_IN } from '../../texts/sign-in';

/** The languages that there are, for whoever has not signed in yet. */
export function LanguageSwitch() {
  const languages = useQuery(languagesQuery).data ?? [];
  // Whoever is signed in and has chosen one changes it in their account.
  const chosen = useQueryClient().getQueryData(sessionQuery.queryKey)?.language ?? null;
  if (languages.length < 2 || chosen !== null) return null;
  return (
    <nav aria-label={SIGN_IN.languages} className="mt-4 flex flex-wrap justify-center gap-x-1">
      {languages.map(({ tag, name }) => {
        const isCurrent = tag === document.documentElement.lang;
        return (
          <button
            key={tag}
            type="button"
            lang={tag}
            aria-current={isCurrent ? 'true' : undefined}
            className="rounded px-2 py-1 text-sm text-muted hover:text-ink aria-[current]:font-semibold aria-[current]:text-ink"
            onClick={() => speak(tag)}
          >
            {name}
          </button>
        );
      })}
    </nav>
  );
}
