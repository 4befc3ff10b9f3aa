import type { ApiClient, VisitRoundDetail } from '@pragmatica/contract';
import {
  DEVICES,
  RUNGS,
  answeredWords,
  deliveryOf,
  rungTitle,
  whoWords,
  type RungState,
} from '@pragmatica/core';
import { say } from '../texts/say.js';
import { VISITS } from '../texts/visits.js';
import { whoName } from './who-name.js';

/** A picture of a visit, to stand in a page of its own. */
interface Picture {
  readonly caption: string;
  readonly address: string;
}

type Summary = VisitRoundDetail['summary'];

/** Pictures in one report: the first visit of each page and device. */
const MAX_PICTURES = 12;

const SIGNS: Record<RungState, string> = {
  reached: '✓',
  failed: '✗',
  'not-reached': '·',
  none: '–',
  waiting: '…',
};

/** What a round found as one HTML file that needs nothing else, to be sent to whoever should see it. */
export async function roundPage(client: ApiClient, site: string, detail: VisitRoundDetail): Promise<string> {
  const { round, summary } = detail;
  const title = say(VISITS.reportTitle, { host: round.host });
  const pictures = await picturesOf(client, site, detail);
  const sections = [
    problems(summary),
    rungs(summary),
    onScreen(summary),
    stages(summary),
    reported(summary),
    weights(summary),
    figures(pictures),
  ];
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${text(title)}</title>
<style>${STYLE}</style>
</head>
<body>
<main>
<h1>${text(title)}</h1>
<p class="quiet">${text(lead(detail))}</p>
<p class="${summary.isWell ? 'well' : 'wrong'}">${text(summary.isWell ? VISITS.wellHead : VISITS.reportWrong)}</p>
${sections.join('\n')}
</main>
</body>
</html>
`;
}

function lead({ round, visits }: VisitRoundDetail): string {
  return say(VISITS.reportLead, {
    host: round.host,
    way: deliveryOf(round.delivery).name,
    what: round.isRehearsal ? VISITS.theDraft : say(VISITS.release, { number: round.release ?? 0 }),
    count: visits.length,
    browser: round.browser ?? VISITS.unknownBrowser,
    when: new Date(round.startedAt ?? round.createdAt).toUTCString(),
  });
}

async function picturesOf(
  client: ApiClient,
  site: string,
  { round, visits }: VisitRoundDetail,
): Promise<readonly Picture[]> {
  const seen = new Set<string>();
  const first = visits.filter(({ state, path, device }) => {
    const place = `${path} ${device}`;
    return state === 'done' && !seen.has(place) && seen.add(place);
  });
  const pictures: Picture[] = [];
  for (const { number, path, device } of first.slice(0, MAX_PICTURES)) {
    const params = { site, round: round.number, visit: number };
    const { data: visit } = await client.call('showVisit', { params });
    const screenshot = visit.loads.flatMap((load) => load.screenshot ?? []).at(-1);
    if (screenshot === undefined) continue;
    const { data } = await client.call('showScreenshot', { params: { ...params, screenshot } });
    pictures.push({ caption: `${path} (${device})`, address: `data:${data.type};base64,${data.data}` });
  }
  return pictures;
}

function problems({ snippets }: Summary): string {
  const items = snippets.flatMap(({ name, problems: all, intruder }) => [
    ...all.map(({ rung, cause, at }) =>
      item(say(VISITS.problem, { name, rung }), [
        cause.message,
        cause.advice,
        say(VISITS.who, { who: whoWords(cause.who) }),
        places(at),
      ]),
    ),
    ...(intruder
      ? [item(say(VISITS.intruder, { name }), [intruder.message, intruder.advice, places(intruder.at)])]
      : []),
  ]);
  return items.length === 0 ? '' : section(VISITS.reportProblems, items.join('\n'));
}

function item(head: string, lines: readonly string[]): string {
  const shown = lines.filter((line) => line !== '').map((line) => `<p>${text(line)}</p>`);
  return `<article><h3>${text(head)}</h3>${shown.join('')}</article>`;
}

function places(at: readonly { readonly path: string; readonly device: string }[]): string {
  return [...new Set(at.map(({ path, device }) => `${path} (${device})`))].join(', ');
}

function rungs({ snippets }: Summary): string {
  const rows = snippets.flatMap(({ name, devices, leftOut }) =>
    devices.length === 0
      ? [
          `<tr><th>${text(name)}</th><td colspan="${RUNGS.length + 1}" class="quiet">${text(leftOut ?? VISITS.leftOut)}</td></tr>`,
        ]
      : DEVICES.toReversed()
          .flatMap((device) => devices.filter((one) => one.device === device))
          .map(({ device, rungs: states }, index) => {
            const cells = RUNGS.map((rung) => `<td class="sign ${states[rung]}">${SIGNS[states[rung]]}</td>`);
            return `<tr><th>${index === 0 ? text(name) : ''}</th><td>${device}</td>${cells.join('')}</tr>`;
          }),
  );
  const head = ['', '', ...RUNGS.map(rungTitle)].map((one) => `<th>${text(one)}</th>`).join('');
  return section(
    VISITS.reportRungs,
    `<table><thead><tr>${head}</tr></thead><tbody>${rows.join('')}</tbody></table>`,
  );
}

function onScreen({ overlaps, covered, doubled }: Summary): string {
  const lines = [
    ...overlaps.map(({ upper, lower, shared, advice, at }) =>
      item(
        say(VISITS.meet, {
          upper: upper.name,
          lower: lower.name,
          width: Math.round(shared.width),
          height: Math.round(shared.height),
        }),
        [advice, places(at)],
      ),
    ),
    ...covered.map(({ by, control, at }) =>
      item(say(VISITS.covers, { by: by.name, control: control.name }), [places(at)]),
    ),
    ...doubled.map(({ kind, url, count, at }) =>
      item(
        say(kind === 'file' ? VISITS.twiceFile : VISITS.twiceReport, { url: url.split('?', 1)[0]!, count }),
        [places(at)],
      ),
    ),
  ];
  return lines.length === 0 ? '' : section(VISITS.overlaps, lines.join('\n'));
}

function stages({ stages: all }: Summary): string {
  return all
    .filter(({ stage }) => stage !== 'accepted')
    .map(({ stage, disclosures }) => {
      const rows = disclosures.map(({ snippet, name, stored, hosts }) => {
        const who = whoName({ snippet, name });
        const keys = stored.map(({ key, where }) => `${key} (${where})`).join(', ');
        return `<tr><th>${text(who)}</th><td>${text(keys)}</td><td>${text(hosts.map(({ host }) => host).join(', '))}</td></tr>`;
      });
      const head = ['', VISITS.reportKeeps, VISITS.reportAsks].map((one) => `<th>${text(one)}</th>`).join('');
      return section(
        stage === 'before' ? VISITS.before : VISITS.refused,
        `<table><thead><tr>${head}</tr></thead><tbody>${rows.join('')}</tbody></table>`,
      );
    })
    .join('\n');
}

function reported({ reports }: Summary): string {
  if (reports.length === 0) return '';
  const rows = reports.map(({ snippet, name, host, by }) => {
    const who = whoName({ snippet, name });
    return `<tr><th>${text(who)}</th><td>${text(host)}</td><td>${text(answeredWords(by))}</td></tr>`;
  });
  const head = ['', VISITS.reportHost, VISITS.reportReports].map((one) => `<th>${text(one)}</th>`).join('');
  return section(
    VISITS.reports,
    `<table><thead><tr>${head}</tr></thead><tbody>${rows.join('')}</tbody></table>`,
  );
}

function weights({ weights: all }: Summary): string {
  const most = Math.max(1, ...all.map(({ bytes }) => bytes));
  const rows = all.map(({ snippet, name, requests, bytes }) => {
    const who = whoName({ snippet, name });
    return `<tr><th>${text(who)}</th><td>${requests}</td><td>${(bytes / 1_000).toFixed(1)}</td><td class="bar"><i style="width:${Math.max(1, (100 * bytes) / most).toFixed(0)}%"></i></td></tr>`;
  });
  const head = ['', VISITS.reportRequests, 'kB', ''].map((one) => `<th>${text(one)}</th>`).join('');
  return all.length === 0
    ? ''
    : section(
        VISITS.weights,
        `<table><thead><tr>${head}</tr></thead><tbody>${rows.join('')}</tbody></table>`,
      );
}

function figures(pictures: readonly Picture[]): string {
  if (pictures.length === 0) return '';
  const shown = pictures.map(
    ({ caption, address }) =>
      `<figure><img src="${address}" alt="${text(caption)}"><figcaption>${text(caption)}</figcaption></figure>`,
  );
  return section(VISITS.reportPictures, `<div class="figures">${shown.join('\n')}</div>`);
}

function section(title: string, body: string): string {
  return `<section><h2>${text(title)}</h2>${body}</section>`;
}

/** Text as HTML holds it, also in an attribute in double quotes (HTML Standard, 13.3). */
function text(plain: string): string {
  const names: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
  return plain.replace(/[&<>"]/g, (sign) => names[sign]!);
}

const STYLE = `:root{color-scheme:light dark;--ink:#1b2723;--paper:#fffefb;--line:#ddd8cb;--quiet:#5f6963;--good:#2c6e49;--bad:#a52a2a;--bar:#1f5644}
@media (prefers-color-scheme:dark){:root{--ink:#e7ebe6;--paper:#131816;--line:#313c37;--quiet:#9eaaa3;--good:#84cba0;--bad:#f0938a;--bar:#7cc4a4}}
body{margin:0;background:var(--paper);color:var(--ink);font:16px/1.5 system-ui,sans-serif}
main{max-width:60rem;margin:auto;padding:2rem 1.25rem}
h1{font-size:1.6rem;margin:0}h2{font-size:1.15rem;margin:2rem 0 .5rem}h3{font-size:1rem;margin:.75rem 0 .25rem}
p{margin:.15rem 0}.quiet,figcaption{color:var(--quiet);font-size:.9rem}.well{color:var(--good);font-weight:600}.wrong{color:var(--bad);font-weight:600}
table{border-collapse:collapse;width:100%;font-size:.9rem}th,td{border-bottom:1px solid var(--line);padding:.3rem .6rem .3rem 0;text-align:left;vertical-align:top;overflow-wrap:anywhere}
.sign{font-weight:600}.reached{color:var(--good)}.failed{color:var(--bad)}
.bar{width:40%}.bar i{display:block;height:.7rem;margin-top:.35rem;background:var(--bar)}
.figures{display:flex;flex-wrap:wrap;gap:1rem}figure{margin:0;flex:1 1 18rem;max-width:28rem}img{max-width:100%;border:1px solid var(--line)}
@media print{article,figure,tr{break-inside:avoid}}`;
