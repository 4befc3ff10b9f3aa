import { cpus } from 'node:os';
import {
  ReleasePlanner,
  pageAddress,
  planPage,
  type Limits,
  type PageLoad,
  type Snapshot,
} from '@pragmatica/core';

/** Page loads of a compiled release by the number of its snippets; beside them the plan that tells every reason. */

const SIZES = [10, 100, 1_000, 10_000];
const LOADS = 200_000;
const NOW = Date.UTC(2027, 2, 1, 10);

const LIMITS: readonly (Limits | undefined)[] = [
  undefined,
  undefined,
  { devices: ['phone', 'tablet'] },
  { hours: { weekly: { mon: [{ from: '09:00', to: '17:30' }], fri: [{ from: '09:00', to: '12:00' }] } } },
  { consent: ['adverts'] },
];

function release(size: number): Snapshot {
  return {
    format: 'pragmatica-set/1',
    site: {
      key: 'bench',
      name: 'Bench',
      timeZone: 'Europe/Dublin',
      consent: {
        categories: [{ key: 'adverts', name: 'Adverts' }],
        cookie: 'agreed',
        format: { kind: 'list' },
      },
    },
    snippets: Array.from({ length: size }, (_, i) => {
      const limits = LIMITS[i % LIMITS.length];
      return {
        key: `s${i}`,
        name: `S ${i}`,
        purpose: '',
        provider: '',
        note: '',
        state: 'on' as const,
        // A few are everywhere; the rest share the pages of a site of size/3 folders.
        pages:
          i < 5
            ? { include: [], exclude: [`/private/*`] }
            : { include: [`/part-${i % Math.ceil(size / 3)}/*`], exclude: [] },
        ...(limits ? { limits } : {}),
        parts: [
          {
            placement: 'body-end' as const,
            rank: i,
            code: `<script src="https://p.example/${i}.js" async></script>`,
          },
        ],
      };
    }),
  };
}

const PHONE = { 'sec-ch-ua-mobile': '?1', cookie: 'session=1; agreed=adverts; theme=dark' };
const DESKTOP = { 'user-agent': 'Mozilla/5.0 (X11; Linux x86_64; rv:130.0) Gecko/20100101 Firefox/130.0' };

function seconds(run: () => void): number {
  const start = process.hrtime.bigint();
  run();
  return Number(process.hrtime.bigint() - start) / 1e9;
}

console.log(
  `${cpus().length} cores, Node ${process.version}. ${LOADS.toLocaleString('en')} page loads each.\n`,
);
console.log(
  'snippets   compile ms   plans/s (one page)   plans/s (500 pages)   µs a plan   plain plan µs   ratio',
);
for (const size of SIZES) {
  const snapshot = release(size);
  let planner!: ReleasePlanner;
  const compile = seconds(() => {
    planner = new ReleasePlanner(snapshot, 'live');
    planner.page(pageAddress('/'));
  });
  const targets = Array.from({ length: 500 }, (_, i) => `/part-${i % Math.ceil(size / 3)}/page-${i}.html`);
  let parts = 0;
  const ask = (target: string, i: number): void => {
    const page = planner.page(pageAddress(target, 'www.bench.example'));
    parts += page.outcome(i % 2 === 0 ? PHONE : DESKTOP, NOW + i).parts.count;
  };
  targets.forEach(ask);
  const one = seconds(() => {
    for (let i = 0; i < LOADS; i++) ask('/part-1/page-1.html', i);
  });
  const many = seconds(() => {
    for (let i = 0; i < LOADS; i++) ask(targets[i % targets.length]!, i);
  });
  const rounds = Math.max(3, Math.ceil(2_000 / size));
  const plain = seconds(() => {
    for (let i = 0; i < rounds; i++) {
      const load: PageLoad = {
        page: pageAddress(targets[i % targets.length]!, 'www.bench.example'),
        environment: 'live',
        device: 'phone',
        at: NOW,
        consent: ['adverts'],
      };
      parts += planPage(snapshot, load).parts.length;
    }
  });
  const [each, plainEach] = [(many / LOADS) * 1e6, (plain / rounds) * 1e6];
  const row = [
    String(size).padStart(8),
    (compile * 1e3).toFixed(1).padStart(11),
    Math.round(LOADS / one)
      .toLocaleString('en')
      .padStart(19),
    Math.round(LOADS / many)
      .toLocaleString('en')
      .padStart(21),
    each.toFixed(2).padStart(11),
    plainEach.toFixed(0).padStart(15),
    `1 : ${Math.round(plainEach / each).toLocaleString('en')}`.padStart(11),
  ];
  console.log(row.join(' '));
  if (parts === 0) throw new Error('nothing was planned');
}
