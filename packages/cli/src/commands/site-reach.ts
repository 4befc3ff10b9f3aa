import type { SitePatch, SiteResource } from '@pragmatica/contract';
import { consentNames } from '@pragmatica/core';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { colour, print, printJson, table } from '../output.js';
import { SITES } from '../texts/sites.js';
import { say } from '../texts/say.js';

/** What a site defines once for the reaches of all its snippets: page groups, and purposes of consent. */
export function siteReach(group: Command): void {
  withSite(group.command('groups'))
    .description(SITES.siteSPage)
    .action(async (options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const { pageGroups } = (await client.call('showSite', { params: { site } })).data;
      if (options.json) printJson(pageGroups);
      else if (pageGroups.length === 0) print(SITES.noPageGroups);
      else
        print(
          table(
            ['GROUP', 'NAME', 'PATTERNS'],
            pageGroups.map(({ key, name, patterns }) => [colour.bold(`@${key}`), name, patterns.join('  ')]),
          ),
        );
    });
  withSite(group.command('group <key> [pattern...]'))
    .description(SITES.definePageGroup)
    .option('--name <name>', SITES.whatPeopleCall)
    .action(async (typed: string, patterns: string[], options: SiteOptions & { name?: string }) => {
      const key = typed.replace(/^@/, '');
      const data = await withSiteLock(options, (site) => {
        const old = site.pageGroups.find((entry) => entry.key === key);
        if (patterns.length === 0 && !old)
          throw new CliError(say(SITES.noSuchGroup, { site: site.key, group: key }), EXIT.notFound);
        const others = site.pageGroups.filter((entry) => entry.key !== key);
        const group = { key, name: options.name ?? old?.name ?? key, patterns };
        return { pageGroups: patterns.length === 0 ? others : [...others, group] };
      });
      if (options.json) printJson(data.pageGroups);
      else if (patterns.length === 0) print(say(SITES.tookPageGroup, { key }));
      else {
        const { data: held } = await clientFor(options).call('previewPages', {
          params: { site: data.key },
          body: { include: [`@${key}`], exclude: [] },
        });
        print(say(SITES.keyHoldsHeld, { key, held: heldWords(held.matched, held.known) }));
      }
    });
  withSite(group.command('consent'))
    .description(SITES.purposesVisitorsAsked)
    .option('--cookie <name>', SITES.cookieConsentBanner)
    .option('--purpose <key=name...>', SITES.allPurposesCookie)
    .option('--json-path <path>', SITES.whereCookieS)
    .option('--list', SITES.cookiePlainList)
    .option('--none', SITES.siteAsksNobody)
    .action(async (options: ConsentOptions) => {
      const isChange = options.cookie ?? options.purpose ?? options.jsonPath ?? options.list ?? options.none;
      const client = clientFor(options);
      const data =
        isChange === undefined
          ? (await client.call('showSite', { params: { site: await siteFor(client, options) } })).data
          : await withSiteLock(options, (site) => ({
              consent: options.none ? null : consentOf(site, options),
            }));
      if (options.json) printJson(data.consent);
      else if (!data.consent) print(SITES.siteAsksVisitors);
      else {
        const { cookie, format, categories } = data.consent;
        const how = format.kind === 'list' ? SITES.plainList : say(SITES.jsonPath, { path: format.path });
        const purposes = categories.map(({ key }) => key);
        const names = consentNames(purposes, data.consent);
        print(say(SITES.cookieCookieHolds, { cookie: colour.bold(cookie), how }));
        print(
          table(
            ['PURPOSE', 'NAME', SITES.cookie],
            categories.map(({ key, value }, index) => [key, names[index]!, value ?? key]),
          ),
        );
      }
    });
}

export function heldWords(matched: readonly string[], known: number): string {
  const shown = matched.slice(0, 8).join(', ');
  const more = matched.length > 8 ? ` and ${matched.length - 8} more` : '';
  return `${matched.length} of ${say(SITES.knownPage, { known })}${matched.length > 0 ? `: ${shown}${more}` : ''}`;
}

interface ConsentOptions extends SiteOptions {
  readonly cookie?: string;
  readonly purpose?: string[];
  readonly jsonPath?: string;
  readonly list?: boolean;
  readonly none?: boolean;
}

function consentOf(site: SiteResource, options: ConsentOptions): NonNullable<SitePatch['consent']> {
  const old = site.consent;
  const cookie = options.cookie ?? old?.cookie;
  if (cookie === undefined) throw new CliError(SITES.nameCookieCookie);
  const categories = options.purpose?.map(purposeOf) ?? old?.categories;
  if (!categories) throw new CliError(SITES.namePurposesLike);
  const format =
    options.jsonPath !== undefined
      ? { kind: 'json' as const, path: options.jsonPath }
      : options.list || !old
        ? { kind: 'list' as const }
        : old.format;
  return { cookie, categories, format };
}

function purposeOf(typed: string): { key: string; name: string } {
  const [key = '', name = key] = typed.split(/=(.*)/s);
  return { key, name: name === '' ? key : name };
}

async function withSiteLock(
  options: SiteOptions,
  change: (site: SiteResource) => SitePatch,
): Promise<SiteResource> {
  const client = clientFor(options);
  const params = { site: await siteFor(client, options) };
  const { data, etag } = await client.call('showSite', { params });
  return (await client.call('editSite', { params, ifMatch: etag, body: change(data) })).data;
}
