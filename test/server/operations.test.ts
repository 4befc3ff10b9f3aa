import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import { parse } from 'yaml';
import { settled, sql } from '../support/backups.js';
import { startStage, type Stage } from '../support/stage.js';

const PAPER = readFileSync('docs/operations.md', 'utf8');
const ALERTS = readFileSync('docs/operations/alerts.yml', 'utf8');
const namesIn = (text: string): string[] => [...new Set(text.match(/\bpragmatica_[a-z_]+\b/g) ?? [])].sort();

describe('what is said of running it', function () {
  this.timeout(60_000);
  let stage: Stage;
  before(async () => {
    stage = await startStage({ hasDemo: false, hasWorker: true });
  });
  after(() => stage.close());

  const metrics = async (): Promise<string> => {
    const headers = { authorization: `Bearer ${stage.token}` };
    return (await fetch(`${stage.server}/metrics`, { headers })).text();
  };

  it('names each metric that there is, and no other', async () => {
    const source = readFileSync('packages/gateway/src/metrics.ts', 'utf8');
    const there = [...namesIn(await metrics()), ...namesIn(source)].sort();
    expect(namesIn(PAPER.slice(PAPER.indexOf('## Metrics')))).to.deep.equal(there);
  });

  it('alerts by metrics that there are, each with what to do', () => {
    const { groups } = parse(ALERTS) as {
      groups: {
        rules: { alert: string; expr: string; annotations: { summary: string; action: string } }[];
      }[];
    };
    const rules = groups.flatMap((group) => group.rules);
    expect(rules.length).to.be.greaterThan(5);
    for (const { alert, expr, annotations } of rules) {
      expect(namesIn(PAPER), alert).to.include.members(namesIn(expr));
      expect(namesIn(expr)).to.have.length(1);
      expect(annotations).to.have.keys('summary', 'action');
    }
  });

  it('draws each metric, none of which is missing, and nothing over something else', () => {
    const { panels } = JSON.parse(readFileSync('docs/operations/dashboard.json', 'utf8')) as {
      panels: {
        id: number;
        title: string;
        description: string;
        gridPos: { x: number; y: number; w: number; h: number };
        targets: { expr: string }[];
      }[];
    };
    const drawn = panels.flatMap(({ targets }) => targets.map(({ expr }) => expr)).join(' ');
    expect(namesIn(drawn)).to.deep.equal(namesIn(PAPER.slice(PAPER.indexOf('## Metrics'))));
    expect(new Set(panels.map(({ id }) => id)).size).to.equal(panels.length);
    const cells = panels.flatMap(({ gridPos: { x, y, w, h } }) => {
      expect(x + w).to.be.at.most(24);
      return Array.from({ length: w * h }, (_, at) => `${x + (at % w)} ${y + Math.floor(at / w)}`);
    });
    expect(new Set(cells).size).to.equal(cells.length);
    for (const { title, description } of panels) expect([title, description]).to.not.include('');
  });

  it('is measured: workers, gateways, and the age of the last backup', async () => {
    const first = await metrics();
    expect(first)
      .to.match(/^pragmatica_workers 1$/m)
      .and.match(/^pragmatica_backup_failed 0$/m);
    expect(first).to.not.match(/^pragmatica_backup_age_seconds \d/m);
    expect(Number(/^pragmatica_gateways (\d+)$/m.exec(first)![1])).to.be.at.least(1);
    const { data } = await stage.client.call('askForBackup', {});
    await settled(stage, data.id);
    await sql(stage, `update backup set made_at = now() - interval '1 hour'`);
    const age = /^pragmatica_backup_age_seconds ([\d.]+)$/m.exec(await metrics())!;
    expect(Number(age[1])).to.be.within(3_590, 3_700);
    await sql(stage, `insert into backup (state, problem) values ('failed', 'Full.')`);
    expect(await metrics()).to.match(/^pragmatica_backup_failed 1$/m);
  });
});
