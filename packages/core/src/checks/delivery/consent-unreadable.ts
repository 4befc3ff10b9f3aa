import { isConsentReadable } from '../../deliver/index.js';
import { defineCheck } from '../check.js';

const PIXEL = '<script async src="https://glintpixel.example/p.js"></script>';

export const consentUnreadable = defineCheck({
  id: 'consent-unreadable',
  area: 'delivery',
  severity: 'warning',
  title: 'Waits for consent that cannot be read',
  why: 'Consent is read in the visitor’s own browser. If the small script there cannot find it, the code never runs, whatever visitors agree to.',
  asks: ['hosts'],
  messages: {
    path: {
      title: '“{snippet}” runs for nobody on {hosts}',
      advice:
        'It waits for consent, and the script that loads it cannot follow “{path}” into the cookie. It understands plain names only, as in $.purposes.granted. Change the path in the settings, or have the consent banner store a plain list.',
    },
  },
  given: 'The site gets everything by the one line, and searches the cookie’s JSON by a condition.',
  delivery: 'line',
  consent: {
    categories: [{ key: 'adverts', name: 'Adverts' }],
    cookie: 'consent',
    format: { kind: 'json', path: '$.choices[?@.agreed == true].name' },
  },
  isFixable: false,
  wrong: [
    {
      name: 'Advert pixel',
      limits: { consent: ['adverts'] },
      parts: [{ placement: 'head-end', code: PIXEL }],
    },
  ],
  right: [{ name: 'Advert pixel', parts: [{ placement: 'head-end', code: PIXEL }] }],
  *run(set) {
    const { snippets, site } = set.snapshot;
    if (site.consent?.format.kind !== 'json' || isConsentReadable(site.consent)) return;
    const { path } = site.consent.format;
    for (const snippet of snippets) {
      if (snippet.state !== 'on' || snippet.limits?.consent === undefined) continue;
      const ways = set.waysOf(snippet).filter(({ delivery }) => delivery.decides.consent === 'in-browser');
      if (ways.length === 0) continue;
      yield {
        about: 'path',
        message: 'path',
        params: { snippet: snippet.name, hosts: ways.flatMap(({ hosts }) => hosts), path },
        subjects: [{ snippet: snippet.key, name: snippet.name }],
        evidence: [],
      };
    }
  },
});
