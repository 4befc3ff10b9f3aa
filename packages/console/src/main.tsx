import { parseTranslation, setTranslation } from '@pragmatica/core/catalogue';
import { setNonce } from 'get-nonce';
import './styles.css';
import { followTheme } from './theme';

/** The language that the texts are written in. Any other one is asked for before the first of them is said. */
const WRITTEN_IN = 'en';

followTheme();

// Dialogs add a style tag of their own; the page's policy lets it in by the nonce of this answer.
const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce;
if (nonce) setNonce(nonce);

const { lang } = document.documentElement;
if (lang !== WRITTEN_IN) {
  const answer = await fetch(`/languages/${lang}.json`);
  // Without it everything is said as it is written.
  if (answer.ok) setTranslation(parseTranslation(await answer.text()));
}

const { start } = await import('./start');
start();
