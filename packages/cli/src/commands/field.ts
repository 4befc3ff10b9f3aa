import { FIELD_TYPES, fieldValue, type FieldType } from '@pragmatica/core';
import { listAllFields, type FieldResource, type FieldRow } from '@pragmatica/contract';
import { Option, type Command } from 'commander';
import {
  clientFor,
  siteFor,
  sitesFor,
  withSite,
  withSites,
  type SiteOptions,
  type SitesOptions,
} from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { colour, print, printJson, table } from '../output.js';
import { tellResults } from '../results.js';
import { FIELDS } from '../texts/fields.js';
import { say } from '../texts/say.js';

interface DefineOptions extends SiteOptions {
  readonly type: FieldType;
  readonly label?: string;
  readonly example?: string;
  readonly value?: string;
}

export function field(program: Command): void {
  const group = program.command('field').description(say(FIELDS.valuesCodeWritten));
  withSites(group.command('list'))
    .description(FIELDS.fieldsSiteSeveral)
    .action(async (options: SitesOptions) => {
      const client = clientFor(options);
      const keys = await sitesFor(client, options);
      const rows = await listAllFields(client, { site: keys.join() });
      if (options.json)
        printJson(
          keys.map((key) => ({
            site: key,
            fields: rows.filter((row) => row.site === key).map((row) => row.field),
          })),
        );
      else tellFields(rows);
    });
  withSite(group.command('define <name>'))
    .description(FIELDS.defineFieldSite)
    .addOption(new Option('--type <type>', FIELDS.whatHolds).choices(FIELD_TYPES).default('text'))
    .option('--label <text>', FIELDS.whatPeopleCall)
    .option('--example <value>', FIELDS.providerSOwn)
    .option('--value <value>', FIELDS.value)
    .addHelpText('after', FIELDS.examplePragmaticaField)
    .action(async (name: string, options: DefineOptions) => {
      const { type, label, example, value } = options;
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const { data: site, etag } = await client.call('showSite', { params });
      const old = site.fields.find((entry) => entry.name === name);
      const next: FieldResource = {
        ...old,
        name,
        type,
        label: label ?? old?.label ?? name,
        ...(example === undefined ? {} : { example }),
        ...(value === undefined ? {} : { value }),
      };
      const fields = old
        ? site.fields.map((entry) => (entry === old ? next : entry))
        : [...site.fields, next];
      const { data } = await client.call('editSite', { params, ifMatch: etag, body: { fields } });
      if (options.json) printJson(next);
      else {
        print(say(FIELDS.writeFieldInCode, { field: colour.bold(`@{${name}}`) }));
        tellFields([{ site: data.key, field: next }]);
      }
    });
  withSites(group.command('set <name=value...>'))
    .description(FIELDS.giveFieldsNew)
    .addOption(new Option('--environment <name>', FIELDS.thereOnly).choices(['live', 'staging']))
    .addHelpText('after', FIELDS.examplesPragmaticaField)
    .action(async (typed: string[], options: SitesOptions & { environment?: 'live' | 'staging' }) => {
      const values = typed.map(readPair);
      const client = clientFor(options);
      const sites = await sitesFor(client, options);
      const changes = sites.flatMap((site) =>
        values.map(([name, value]) => ({
          site,
          name,
          environment: options.environment,
          value: value === '' ? null : value,
        })),
      );
      tellResults((await client.call('changeFields', { body: { changes } })).data.items, options);
    });
  withSite(group.command('remove <name>'))
    .description(FIELDS.takeFieldAway)
    .action(async (name: string, options: SiteOptions) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const { data: site, etag } = await client.call('showSite', { params });
      if (!site.fields.some((entry) => entry.name === name))
        throw new CliError(say(FIELDS.siteKeyHas, { key: site.key, name }), EXIT.notFound);
      const fields = site.fields.filter((entry) => entry.name !== name);
      await client.call('editSite', { params, ifMatch: etag, body: { fields } });
      if (options.json) printJson(fields);
      else print(say(FIELDS.tookFieldName, { name }));
    });
}

function readPair(typed: string): [name: string, value: string] {
  const [name, value] = typed.split(/=(.*)/s);
  if (!name || value === undefined) throw new CliError(say(FIELDS.writeNameValue, { typed }));
  return [name, value];
}

function tellFields(fields: readonly Pick<FieldRow, 'site' | 'field'>[]): void {
  const rows = fields.map(({ site, field: entry }) => [
    site,
    colour.bold(`@{${entry.name}}`),
    entry.type,
    valueText(entry, 'live'),
    valueText(entry, 'staging'),
    entry.label,
  ]);
  if (rows.length === 0) print(FIELDS.noFieldsYet);
  else print(table(['SITE', 'FIELD', 'TYPE', 'LIVE', 'STAGING', 'LABEL'], rows));
}

function valueText(entry: FieldResource, environment: 'live' | 'staging'): string {
  const own = entry[environment] ?? entry.value;
  if (own !== undefined && own !== '') return own;
  const example = fieldValue(entry, environment);
  return colour.yellow(example === undefined ? FIELDS.notSet : `${example} (example)`);
}
