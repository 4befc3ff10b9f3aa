import { changeSite, difference, type Field, type Snapshot } from '@pragmatica/core';
import { expect } from 'chai';
import { set } from '../support/sets.js';

const ACCOUNT: Field = { name: 'account', type: 'id', label: 'Account', value: 'TM-1', staging: 'TM-2' };
const CONSENT = {
  categories: [{ key: 'adverts', name: 'Adverts' }],
  cookie: 'agreed',
  format: { kind: 'list' as const },
};
const SITE: Snapshot['site'] = { ...set().site, fields: [ACCOUNT], consent: CONSENT };

describe('what a set says of its site', () => {
  it('changes in what is named, and stays as it is in the rest', () => {
    expect(changeSite(SITE, [{ kind: 'edit-site', name: 'Mill' }])).to.deep.equal({ ...SITE, name: 'Mill' });
    expect(changeSite(SITE, [{ kind: 'edit-site' }])).to.deep.equal(SITE);
    const { consent: _, ...withoutConsent } = SITE;
    expect(changeSite(SITE, [{ kind: 'edit-site', consent: null }])).to.deep.equal(withoutConsent);
    const group = { key: 'islands', name: 'Islands', patterns: ['/islands/*'] };
    expect(
      changeSite(SITE, [{ kind: 'edit-site', pageGroups: [group], timeZone: 'Europe/Dublin' }]),
    ).to.deep.equal({
      ...SITE,
      timeZone: 'Europe/Dublin',
      pageGroups: [group],
    });
  });

  it('gives fields values where they are named, one after the other', () => {
    const fields = (...changes: Parameters<typeof changeSite>[1]) => changeSite(SITE, changes).fields;
    expect(fields({ kind: 'set-field', field: 'account', value: 'TM-9' })).to.deep.equal([
      { ...ACCOUNT, value: 'TM-9' },
    ]);
    expect(
      fields(
        { kind: 'set-field', field: 'account', environment: 'live', value: 'TM-7' },
        { kind: 'set-field', field: 'account', environment: 'live', value: 'TM-8' },
      ),
    ).to.deep.equal([{ ...ACCOUNT, live: 'TM-8' }]);
    const { staging: _, ...withoutStaging } = ACCOUNT;
    expect(
      fields({ kind: 'set-field', field: 'account', environment: 'staging', value: null }),
    ).to.deep.equal([withoutStaging]);
    expect(fields({ kind: 'set-field', field: 'other', value: 'x' })).to.deep.equal([ACCOUNT]);
  });

  it('is told in words by what differs', () => {
    const before = { ...set(), site: SITE };
    const site = changeSite(SITE, [
      { kind: 'set-field', field: 'account', environment: 'staging', value: null },
    ]);
    expect(difference(before, { ...before, site }).map(({ message }) => message)).to.deep.equal([
      'The field “account” is now “TM-1” on staging; before, “TM-2”.',
    ]);
  });
});
