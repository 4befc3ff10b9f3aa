import { useQuery } from '@tanstack/react-query';
import { sessionQuery } from '../../api/queries';
import { ACCOUNT } from '../../texts/account';
import { say } from '../../texts/say';
import { IdentitiesSection } from './identities-section';
import { LanguageSection } from './language-section';
import { MailSection } from './mail-section';
import { PasswordSection } from './password-section';
import { PasskeysSection } from './passkeys-section';
import { SecondFactorSection } from './second-factor-section';
import { SessionsSection } from './sessions-section';
import { TokensSection } from './tokens-section';

/** What somebody has of their own: the password, browsers that are signed in, tokens. */
export function AccountView() {
  const login = useQuery(sessionQuery).data?.login ?? '';
  return (
    <main className="mx-auto w-full max-w-3xl space-y-5 px-3 py-6 sm:px-5">
      <div>
        <h1>{ACCOUNT.title}</h1>
        <p className="text-sm text-muted">{say(ACCOUNT.lead, { login })}</p>
      </div>
      <LanguageSection />
      <MailSection />
      <SessionsSection />
      <IdentitiesSection />
      <PasskeysSection />
      <SecondFactorSection />
      <TokensSection />
      <PasswordSection />
    </main>
  );
}
