import { useQuery } from '@tanstack/react-query';
import { useChangeOf } from '../../api/change';
import { api } from '../../api/client';
import { languagesQuery } from '../../api/languages';
import { sessionQuery } from '../../api/queries';
import { ACCOUNT } from '../../texts/account';
import { FormError } from '../../ui/field';
import { Section } from '../../ui/section';
import { SelectField } from '../../ui/select-field';

/** Chosen by nobody: no tag is as short. */
const NONE = '';

/** The language that somebody reads. */
export function LanguageSection() {
  const member = useQuery(sessionQuery).data;
  const languages = useQuery(languagesQuery).data;
  const save = useChangeOf(
    'members',
    async (tag: string) => api.call('editAccount', { body: { language: tag === NONE ? null : tag } }),
    // Texts are taken when the page is loaded.
    () => window.location.reload(),
  );
  if (!member || !languages || languages.length < 2) return null;
  return (
    <Section title={ACCOUNT.languageTitle} text={ACCOUNT.languageText}>
      <div className="max-w-sm space-y-3">
        <SelectField
          label={ACCOUNT.language}
          value={save.variables ?? member.language ?? NONE}
          options={[
            [NONE, ACCOUNT.languageNone],
            ...languages.map(({ tag, name }) => [tag, name, tag] as const),
          ]}
          onChange={(tag) => save.mutate(tag)}
        />
        <FormError error={save.error} />
      </div>
    </Section>
  );
}
