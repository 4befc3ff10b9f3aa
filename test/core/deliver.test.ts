import { DELIVERIES, folderDelivery, gatewayDelivery, parseWeekly, undecided } from '@pragmatica/core';
import { expect } from 'chai';
import { set, snippet } from '../support/sets.js';

const HOURS = { weekly: parseWeekly('mon 09:00-17:00') };

describe('ways of delivery', () => {
  it('are told apart by their keys, and say what it means where they decide once', () => {
    expect(new Set(DELIVERIES.map(({ key }) => key)).size).to.equal(DELIVERIES.length);
    for (const { key, decides, onceWords } of DELIVERIES)
      expect(onceWords !== '', key).to.equal(Object.values(decides).includes('once'));
  });

  it('leave nothing undecided at the gateway', () => {
    const all = snippet('a', {
      limits: { environment: 'live', devices: ['phone'], hours: HOURS, consent: ['adverts'] },
    });
    expect(undecided(set(all), gatewayDelivery)).to.deep.equal([]);
  });

  it('decide once in files what a reach asks of the moment and the visitor, and say so', () => {
    const found = undecided(
      set(
        snippet('everybody'),
        snippet('staging-only', { limits: { environment: 'staging' } }),
        snippet('later', { limits: { visitor: { afterSeconds: 5 } } }),
        snippet('chat', { limits: { environment: 'live', devices: ['phone'], hours: HOURS } }),
        snippet('off', { state: 'off', limits: { devices: ['phone'] } }),
      ),
      folderDelivery,
    );
    expect(found.map(({ snippet: key, dimensions }) => [key, dimensions])).to.deep.equal([
      ['chat', ['devices', 'hours']],
    ]);
    expect(found[0]!.message).to.match(/^“CHAT” runs .*phones.*\. Files cannot ask: it was decided for now/);
  });
});
