import { domainOf } from '../../facts/index.js';
import { isFallback } from '../../order/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { byProvider } from '../ties/by-provider.js';
import { defineCheck } from '../check.js';

export const secondPiece = defineCheck({
  id: 'second-piece',
  area: 'placement',
  severity: 'warning',
  title: 'Half of a two-piece install',
  why: 'Many providers give you two pieces of code. With only the piece for browsers without scripts, nothing works for almost all visitors.',
  messages: {
    'first-missing': {
      title: '{part} is only the second piece of an install',
      advice:
        'Copy the piece for the head, with the account {account}, from the provider’s page and add it to this snippet.',
    },
    'script-missing': {
      title: '{part} is only the second piece of an install',
      advice:
        'It is for browsers without scripts, and no snippet loads a script from {domain}. Copy the piece for the head from the provider’s page and add it to this snippet.',
    },
  },
  explains: ['half-install'],
  roles: {
    fallback: 'only for browsers without scripts',
  },
  isFixable: false,
  wrong: [
    {
      name: 'Container, second piece',
      parts: [
        {
          placement: 'body-start',
          code: '<noscript><iframe src="https://crateline.example/no-script.html?id=CR-20-3"></iframe></noscript>',
        },
      ],
    },
  ],
  right: [
    {
      name: 'Container',
      parts: [
        {
          placement: 'head-start',
          code: '<script async src="https://crateline.example/crate.js?id=CR-20-3"></script>',
        },
        {
          placement: 'body-start',
          code: '<noscript><iframe src="https://crateline.example/no-script.html?id=CR-20-3"></iframe></noscript>',
        },
      ],
    },
  ],
  ties: [byProvider],
  *run(set) {
    const scripted = new Set(
      set.near.running
        .filter((part) => !isFallback(part))
        .flatMap(({ facts }) => facts.accounts.map(({ value }) => value)),
    );
    const scriptedDomains = new Set(
      [...set.near.running.filter((part) => !isFallback(part)), ...set.pageCode.things].flatMap(({ facts }) =>
        facts.loads.flatMap(({ address, noScript }) => (noScript ? [] : (domainOf(address) ?? []))),
      ),
    );
    for (const part of set.running) {
      if (!isFallback(part)) continue;
      if (part.snippet.parts.length > 1) continue;
      // Where its recipe is known, what is missing is told by that.
      if (set.recipeOf(part.snippet)) continue;
      const account = part.facts.accounts[0];
      if (account && scripted.has(account.value)) continue;
      const frame = part.facts.loads.find(({ kind }) => kind === 'frame');
      const domain = frame && domainOf(frame.address);
      if (!account) {
        if (domain === undefined || scriptedDomains.has(domain)) continue;
        yield {
          about: domain,
          message: 'script-missing',
          params: { part: partName(part), domain },
          subjects: [subject(part)],
          evidence: [evidence(part, frame!.range, 'fallback')],
        };
        continue;
      }
      yield {
        about: account.value,
        message: 'first-missing',
        params: { part: partName(part), account: account.value },
        subjects: [subject(part)],
        evidence: [evidence(part, part.facts.loads[0]!.range, 'fallback')],
      };
    }
  },
});
