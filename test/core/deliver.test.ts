import {
  ASPECTS,
  DELIVERIES,
  deliveryTable,
  folderDelivery,
  gatewayDelivery,
  lineDelivery,
  otherWays,
  parseWeekly,
  questionWords,
  recommendWay,
  undecided,
  type OwnerAnswers,
} from '@pragmatica/core';
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
    expect(found[0]!.message).to.match(
      /^“CHAT” runs .*phones.*\. Files cannot ask, so this was decided for the present/,
    );
  });

  it('are compared in a table, whose every cell says something', () => {
    const table = deliveryTable();
    expect(table.map(({ aspect }) => aspect)).to.deep.equal([...ASPECTS]);
    for (const { label, cells } of table) {
      expect(label).not.to.equal('');
      expect(cells).to.have.length(DELIVERIES.length);
      for (const { words } of cells) expect(words).to.match(/\.$/);
    }
  });
});

describe('the way that suits a site', () => {
  const keyOf = (answers: OwnerAnswers): string | undefined => recommendWay(answers).way?.key;

  it('comes of at most four questions, and of one where that settles it', () => {
    const asked: string[] = [];
    let answers: OwnerAnswers = {};
    for (let next = recommendWay(answers).ask; next; next = recommendWay(answers).ask) {
      asked.push(questionWords(next));
      answers = { ...answers, [next]: false };
    }
    expect(asked).to.have.length(4);
    expect(recommendWay(answers)).to.deep.include({ ask: undefined, way: undefined });
    expect(recommendWay(answers).because).to.match(/one box for the head of all pages is enough/);
    expect(recommendWay({ hasSiteBox: true }).ask).to.equal(undefined);
  });

  it('is the one that asks least of its owner, and the others that would do are named', () => {
    expect(keyOf({ hasSiteBox: true, pointsDomain: true })).to.equal('line');
    expect(keyOf({ hasSiteBox: false, pointsDomain: true })).to.equal('gateway');
    expect(keyOf({ hasSiteBox: false, pointsDomain: false, hasFiles: true })).to.equal('folder');
    expect(keyOf({ hasSiteBox: false, pointsDomain: false, hasFiles: false, hasPageBox: true })).to.equal(
      'paste',
    );
    expect(otherWays({ hasSiteBox: true, pointsDomain: true }).map(({ key }) => key)).to.deep.equal([
      'gateway',
      'async-line',
      'paste',
    ]);
  });

  it('decides in the browser what it can ask there', () => {
    const all = snippet('a', { limits: { devices: ['phone'], hours: HOURS, consent: ['adverts'] } });
    expect(undecided(set(all), lineDelivery)).to.deep.equal([]);
  });
});
