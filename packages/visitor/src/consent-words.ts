/*
 * What is written on the buttons of consent banners, in the languages of Europe, in lower case and without accents. Words of
 * accepting everything stand before those of accepting.
 */

export const YES_WORDS: readonly string[] = [
  ...['accept all', 'allow all', 'agree to all', 'accept', 'allow', 'agree', 'i agree', 'i accept', 'yes', 'ok', 'okay', 'got it', 'fine', 'sure', 'enable all', 'that is fine', "that's fine", 'sounds good', 'continue and accept', 'consent'],
  ...['alle akzeptieren', 'alles akzeptieren', 'akzeptieren', 'zustimmen', 'allen zustimmen', 'einverstanden', 'annehmen', 'ja', 'erlauben', 'alle erlauben'],
  ...['tout accepter', 'accepter', "j'accepte", 'autoriser', 'oui', "d'accord"],
  ...['aceptar todo', 'aceptar todas', 'aceptar', 'acepto', 'permitir', 'si', 'de acuerdo'],
  ...['accetta tutto', 'accetta tutti', 'accetta', 'accetto', 'consenti'],
  ...['aceitar tudo', 'aceitar todos', 'aceitar', 'aceito', 'concordo', 'sim'],
  ...['alles accepteren', 'accepteren', 'akkoord', 'toestaan'],
  ...['godkann alla', 'acceptera alla', 'acceptera', 'godkann', 'accepter alle', 'tillad alle', 'godta alle', 'godta', 'aksepter', 'hyvaksy kaikki', 'hyvaksy'],
  ...['zaakceptuj wszystkie', 'akceptuje', 'akceptuj', 'zgadzam sie', 'prijmout vse', 'prijmout', 'souhlasim', 'prijat vsetko', 'elfogadom', 'accept toate'],
];

export const NO_WORDS: readonly string[] = [
  ...['reject all', 'refuse all', 'decline all', 'deny all', 'reject', 'refuse', 'decline', 'deny', 'no', 'no thanks', 'disagree', 'i do not agree', 'only necessary', 'necessary only', 'only essential', 'essential only', 'use necessary', 'continue without', 'do not accept', 'not now', 'disable all'],
  ...['alle ablehnen', 'alles ablehnen', 'ablehnen', 'nein', 'nur notwendige', 'nur erforderliche', 'nur essenzielle', 'nicht zustimmen', 'verweigern'],
  ...['tout refuser', 'refuser', 'je refuse', 'non', 'continuer sans accepter'],
  ...['rechazar todo', 'rechazar todas', 'rechazar', 'no acepto', 'solo necesarias'],
  ...['rifiuta tutto', 'rifiuta tutti', 'rifiuta', 'continua senza accettare', 'solo necessari'],
  ...['rejeitar tudo', 'rejeitar todos', 'rejeitar', 'recusar', 'nao'],
  ...['alles weigeren', 'weigeren', 'afwijzen', 'alleen noodzakelijke', 'nee'],
  ...['avvisa alla', 'neka alla', 'avvisa', 'neka', 'afvis alle', 'afvis', 'avvis alle', 'avvis', 'hylkaa kaikki', 'hylkaa', 'vain valttamattomat'],
  ...['odrzuc wszystkie', 'odrzuc', 'nie zgadzam sie', 'odmitnout vse', 'odmitnout', 'odmietnut', 'elutasitom', 'refuz toate'],
];

/** What such a banner speaks of, in its text or in the names of its elements. */
export const ABOUT_CONSENT: readonly string[] = [
  'cookie', 'consent', 'gdpr', 'privacy', 'tracking', 'count visits', 'data protection', 'your choices', 'personal data', 'analytics',
  'datenschutz', 'einwilligung', 'confidentialite', 'privacidad', 'consentimiento', 'consenso', 'privacidade', 'toestemming', 'samtycke', 'samtykke',
  'evaste', 'prywatnosc', 'ciasteczk', 'souhlas', 'suhlas', 'hozzajarul', 'consimtamant', 'visits',
];
