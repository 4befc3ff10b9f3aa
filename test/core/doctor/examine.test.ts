import { EXAMINATIONS, examine, type DoorFacts, type InstallationFacts } from '@pragmatica/core';
import { expect } from 'chai';

const GIGABYTE = 1_000_000_000;
const NOW = new Date('2026-12-01T12:00:00Z');
const daysAgo = (days: number): Date => new Date(NOW.getTime() - days * 86_400_000);

const host = {
  host: 'www.example.com',
  address: 'https://www.example.com',
  status: 200,
  reason: null,
  certificateUntil: daysAgo(-60),
};

const WELL: InstallationFacts = {
  now: NOW,
  database: { answerMs: 0.4, skewMs: 20, missing: 0, unknown: 0 },
  disks: [{ folder: '/data', freeBytes: 40 * GIGABYTE, allBytes: 100 * GIGABYTE }],
  backups: { isOn: true, lastAt: daysAgo(0.5), failure: null },
  workers: 1,
  gateways: 1,
  gatewayHosts: 3,
  stuck: 0,
  unopened: [],
  identityProvider: { name: 'Harbour ID', problem: null },
  mail: { isSet: true, problem: null, wanted: 2 },
  address: { isHttps: true, hasSecureCookies: true },
  doors: [
    { door: 'console', address: 'https://pragmatica.example', port: 4700, answered: 'by-us', reason: null },
  ],
  hosts: [host],
};

describe('examining an installation', () => {
  it('finds nothing where all is well, and says what it looked at', () => {
    const found = examine(WELL);
    expect(found.filter(({ health }) => health !== 'well')).to.deep.equal([]);
    expect(found.map(({ id }) => id)).to.deep.equal(EXAMINATIONS.map(({ id }) => id));
    expect(found.every(({ advice }) => advice === '')).to.equal(true);
  });

  const doors = (door: DoorFacts['door'], answered: DoorFacts['answered']) => ({
    doors: [{ door, address: 'http://localhost:4780', port: 4780, answered, reason: 'No such name.' }],
  });
  const disk = (freeBytes: number, allBytes: number) => ({
    disks: [{ folder: '/data', freeBytes, allBytes }],
  });
  const cases: readonly [Partial<InstallationFacts>, id: string, 'warning' | 'problem', said: RegExp][] = [
    [
      { database: { ...WELL.database, missing: 2 } },
      'schema',
      'problem',
      /^2 changes of this version are missing/,
    ],
    [
      { identityProvider: { name: 'Harbour ID', problem: 'connect ECONNREFUSED' } },
      'identity',
      'problem',
      /^Nobody can sign in with Harbour ID: connect ECONNREFUSED/,
    ],
    [{ database: { ...WELL.database, unknown: 1 } }, 'schema', 'warning', /newer version/],
    [{ database: { ...WELL.database, answerMs: 900 } }, 'database', 'warning', /takes 900 ms/],
    [{ database: { ...WELL.database, skewMs: -4_000 } }, 'clock', 'warning', /differ by 4 seconds/],
    [{ database: { ...WELL.database, skewMs: 90_000 } }, 'clock', 'problem', /differ by 90 seconds/],
    [disk(GIGABYTE, 100 * GIGABYTE), 'disk', 'warning', /^Only 1 GB of 100 GB are free\.$/],
    [disk(GIGABYTE / 10, 100 * GIGABYTE), 'disk', 'problem', /^Only 100 MB/],
    [{ backups: { isOn: false, lastAt: NOW, failure: null } }, 'backups', 'warning', /No backups are made/],
    [{ backups: { isOn: true, lastAt: null, failure: null } }, 'backups', 'warning', /no backup yet/],
    [{ backups: { isOn: true, lastAt: daysAgo(9), failure: null } }, 'backups', 'problem', /is 9 days old/],
    [{ backups: { isOn: true, lastAt: NOW, failure: 'Full.' } }, 'backups', 'problem', /failed: Full\.$/],
    [{ workers: 0 }, 'workers', 'problem', /^No worker is running/],
    [{ stuck: 1 }, 'workers', 'warning', /^A survey or round of visits waits/],
    [doors('console', 'by-others'), 'ports', 'problem', /^Something else answers there\.$/],
    [doors('console', 'by-nobody'), 'ports', 'warning', /^Nobody answers there,.* tell\. No such name\.$/],
    [doors('preview', 'by-nobody'), 'ports', 'warning', /^Nobody answers there/],
    [doors('gateway', 'by-others'), 'ports', 'problem', /^Another program listens at port 4780/],
    [doors('gateway', 'by-nobody'), 'ports', 'warning', /is connected, and does not answer there/],
    [{ gateways: 0 }, 'gateways', 'problem', /though 3 hosts are served by one/],
    [{ unopened: ['inga', 'staging.example.com'] }, 'seals', 'problem', /inga and staging\.example\.com\.$/],
    [{ mail: { isSet: false, problem: null, wanted: 1 } }, 'mail', 'problem', /though one site is to send/],
    [{ mail: { isSet: true, problem: 'No.', wanted: 0 } }, 'mail', 'problem', /refuses: No\.$/],
    [{ address: { isHttps: true, hasSecureCookies: false } }, 'cookies', 'warning', /not marked/],
    [
      { hosts: [{ ...host, status: null, reason: 'No such name.' }] },
      'hosts',
      'problem',
      /does not answer\. No such name\.$/,
    ],
    [{ hosts: [{ ...host, status: 502 }] }, 'hosts', 'problem', /answers with 502/],
    [{ hosts: [{ ...host, status: 401 }] }, 'hosts', 'warning', /may not be public/],
    [{ hosts: [{ ...host, certificateUntil: daysAgo(1) }] }, 'hosts', 'problem', /ended on 2026-11-30/],
    [{ hosts: [{ ...host, certificateUntil: daysAgo(-3) }] }, 'hosts', 'problem', /ends on 2026-12-04/],
    [{ hosts: [{ ...host, certificateUntil: daysAgo(-15) }] }, 'hosts', 'warning', /ends on 2026-12-16/],
  ];

  for (const [change, id, health, said] of cases)
    it(`tells ${id}: ${health}, ${said.source}`, () => {
      const wrong = examine({ ...WELL, ...change }).filter((one) => one.health !== 'well');
      expect(wrong.map((one) => [one.id, one.health])).to.deep.equal([[id, health]]);
      expect(wrong[0]!.said).to.match(said);
      expect(wrong[0]!.advice).to.not.equal('');
    });

  it('is calm where little of a disk is still much, and where nothing needs a gateway or mail', () => {
    const calm = examine({
      ...WELL,
      ...disk(50 * GIGABYTE, 4_000 * GIGABYTE),
      ...{ gateways: 0, gatewayHosts: 0 },
      mail: { isSet: false, problem: null, wanted: 0 },
      address: { isHttps: false, hasSecureCookies: false },
      hosts: [{ ...host, certificateUntil: null, status: 404 }],
    });
    expect(calm.filter(({ health }) => health !== 'well')).to.deep.equal([]);
  });

  it('tells the worst of a host, once', () => {
    const found = examine({ ...WELL, hosts: [{ ...host, status: 401, certificateUntil: daysAgo(2) }] });
    const wrong = found.filter(({ id }) => id === 'hosts');
    expect(wrong).to.have.length(1);
    expect(wrong[0]).to.include({ about: 'www.example.com', health: 'problem' });
  });
});
