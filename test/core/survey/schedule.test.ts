import { nextRun, scheduleProblem, scheduleWords } from '@pragmatica/core';
import { expect } from 'chai';

const FROM = new Date('2027-03-25T12:00:00Z');
const next = (cron: string, zone = 'UTC', from = FROM): string | undefined =>
  nextRun(cron, zone, from)?.toISOString();

describe('when a survey begins by itself', () => {
  it('is what a crontab says, on the clocks of the site', () => {
    expect(next('0 6 * * *')).to.equal('2027-03-26T06:00:00.000Z');
    expect(next('30 5 * * 1')).to.equal('2027-03-29T05:30:00.000Z');
    expect(next('0 6 * * MON-FRI', 'Pacific/Auckland')).to.equal('2027-03-25T17:00:00.000Z');
    expect(next('15 4 1 */3 *')).to.equal('2027-04-01T04:15:00.000Z');
    expect(next('0 6 L * *')).to.equal('2027-03-31T06:00:00.000Z');
  });

  it('stays the same time of day when the clocks change', () => {
    const sunday = new Date('2027-03-27T12:00:00Z');
    expect(next('0 6 * * *', 'Europe/Dublin', sunday)).to.equal('2027-03-28T05:00:00.000Z');
    // 01:30 is not there on that day, so it comes as soon as the clocks are past it.
    const skipped = next('30 1 * * *', 'Europe/Dublin', sunday)!;
    expect(skipped >= '2027-03-28T01:00:00.000Z' && skipped <= '2027-03-29T01:30:00.000Z').to.equal(true);
    expect(next('0 6 * * *', 'Europe/Dublin', new Date('2027-10-30T12:00:00Z'))).to.equal(
      '2027-10-31T06:00:00.000Z',
    );
  });

  it('is refused where it is no schedule, never comes, or comes too often', () => {
    for (const cron of [
      'daily',
      '',
      '61 * * * *',
      '* * *',
      '0 6 * * * *',
      '0 6 * * 1;',
      'x'.repeat(5_000),
      '0 25 * * *',
    ])
      expect(scheduleProblem(cron, 'UTC', FROM), cron.slice(0, 20)).to.equal('not-cron');
    expect(scheduleProblem('0 6 31 2 *', 'UTC', FROM)).to.equal('never');
    for (const cron of ['* * * * *', '*/5 6 * * *', '0,30 6 * * 1']) {
      expect(scheduleProblem(cron, 'UTC', FROM), cron).to.equal('too-often');
    }
    for (const cron of ['0 6 * * *', '0 * * * *', '0 6,18 * * *', '0 6 29 2 *'])
      expect(scheduleProblem(cron, 'UTC', FROM), cron).to.equal(undefined);
  });

  it('has words', () => {
    expect(scheduleWords('0 6 * * *')).to.equal('every day at 06:00');
    expect(scheduleWords('5  6 * * 1')).to.equal('every Monday at 06:05');
    expect(scheduleWords('0 6 * * 0')).to.equal(scheduleWords('0 6 * * 7'));
    expect(scheduleWords('0 6 2 * *')).to.equal('on the 2nd of each month at 06:00');
    expect(scheduleWords('0 6 1 * 1')).to.equal('by “0 6 1 * 1”');
  });
});
