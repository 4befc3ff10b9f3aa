import { hostOf } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

export const insecureAddress = defineCheck({
  id: 'insecure-address',
  area: 'safety',
  severity: 'warning',
  title: 'An http address on an https site',
  why: 'Browsers refuse to load scripts and frames over http on an https page, so the snippet does nothing.',
  messages: {
    insecure: {
      title: '{part} loads from {host} without https',
      advice: 'Use https:// instead of http:// if the provider offers it; nearly all do.',
    },
  },
  roles: {
    address: 'not secure',
  },
  isFixable: false,
  wrong: [
    {
      name: 'Share',
      parts: [
        { placement: 'body-end', code: '<script async src="http://sharebuoy.example/share.js"></script>' },
      ],
    },
  ],
  right: [
    {
      name: 'Share',
      parts: [
        { placement: 'body-end', code: '<script async src="https://sharebuoy.example/share.js"></script>' },
      ],
    },
  ],
  *run(set) {
    for (const part of set.running) {
      for (const { address, range, kind } of part.facts.loads) {
        const host = hostOf(address);
        // Browsers trust addresses of the same machine (Secure Contexts 3.1).
        if (!/^http:/i.test(address) || host === undefined || /(^|\.)localhost$|^127\./.test(host)) continue;
        if (kind === 'hint') continue;
        yield {
          about: address,
          message: 'insecure',
          params: { part: partName(part), host },
          subjects: [subject(part)],
          evidence: [evidence(part, range, 'address')],
        };
      }
    }
  },
});
