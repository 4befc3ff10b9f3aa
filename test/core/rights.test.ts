import {
  RIGHTS,
  ROLES,
  TOKEN_ROLES,
  accessOf,
  higherRole,
  mayAt,
  mayEverywhere,
  missingFor,
  rightsAt,
  rightsOf,
  sitesWith,
  type Membership,
  type TokenLimits,
} from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { propertyRuns } from '../support/property-runs.js';

const SITES = ['mill', 'quay', 'lock'];

const membership: fc.Arbitrary<Membership> = fc.record({
  everywhere: fc.option(fc.constantFrom(...ROLES)),
  sites: fc.uniqueArray(fc.record({ site: fc.constantFrom(...SITES), role: fc.constantFrom(...ROLES) }), {
    selector: ({ site }) => site,
  }),
});

const limits: fc.Arbitrary<TokenLimits> = fc.record({
  role: fc.constantFrom(...TOKEN_ROLES),
  sites: fc.option(fc.uniqueArray(fc.constantFrom(...SITES))),
});

describe('rights', () => {
  it('of a role are those of the ones before it and one more; who deploys changes nothing', () => {
    expect(ROLES.map((role) => [...rightsOf(role)])).to.deep.equal([
      ['view'],
      ['view', 'edit'],
      ['view', 'edit', 'publish'],
      ['view', 'edit', 'publish', 'own'],
    ]);
    expect([...rightsOf('deploy')]).to.deep.equal(['view', 'publish']);
    expect([higherRole('edit', 'view'), higherRole(null, 'view'), higherRole('own', null)]).to.deep.equal([
      'edit',
      'view',
      'own',
    ]);
  });

  it('of a member are at each site the more of what they have there and everywhere', () => {
    fc.assert(
      fc.property(membership, fc.constantFrom(...SITES), (given, site) => {
        const here = given.sites.find((one) => one.site === site)?.role ?? null;
        const role = higherRole(here, given.everywhere);
        const expected = role === null ? [] : [...rightsOf(role)];
        expect(rightsAt(accessOf(given), site)).to.deep.equal(expected);
      }),
      propertyRuns(500),
    );
  });

  it('of a token are never more than its member’s, nor than it was made for, and not of the account', () => {
    fc.assert(
      fc.property(membership, limits, (given, token) => {
        const [own, limited] = [accessOf(given), accessOf(given, token)];
        const most = rightsOf(token.role);
        for (const right of RIGHTS) {
          for (const site of [...SITES, 'to-come']) {
            const isMeant = token.sites === null || token.sites.includes(site);
            const expected = isMeant && most.has(right) && mayAt(own, site, right);
            expect(mayAt(limited, site, right)).to.equal(expected);
          }
          const everywhere = token.sites === null && most.has(right) && mayEverywhere(own, right);
          expect(mayEverywhere(limited, right)).to.equal(everywhere);
        }
        expect(missingFor('account', limited, undefined)).to.deep.equal({ what: 'whole-account' });
        expect(missingFor('account', own, undefined)).to.equal(undefined);
      }),
      propertyRuns(500),
    );
  });

  it('of lists and of single sites agree', () => {
    fc.assert(
      fc.property(membership, fc.option(limits), fc.constantFrom(...RIGHTS), (given, token, right) => {
        const access = accessOf(given, token ?? undefined);
        const listed = sitesWith(access, right);
        for (const site of SITES)
          expect(listed === 'all' || listed.includes(site)).to.equal(mayAt(access, site, right));
      }),
      propertyRuns(500),
    );
  });
});
