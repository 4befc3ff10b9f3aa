import type { EndpointResult, Endpoints } from '@pragmatica/contract';
import { TRAIT_WORDS } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { ScrollText } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { surveyPageQuery } from '../../api/surveys';
import { useSiteKey } from '../../layout/site-layout';
import { say } from '../../texts/say';
import { SURVEY } from '../../texts/survey';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { Failure, Loading } from '../../ui/states';
import { WayBack } from '../../ui/way-back';
import { isProblem, outcomeWords } from './page-outcome';
import { StandingBadge } from './standing-badge';
import { kindWords } from './kind-words';

type Page = EndpointResult<Endpoints['showSurveyPage']>;
type Item = Page['items'][number];

const PLACES = [
  ['head', SURVEY.placeHead],
  ['body-start', SURVEY.placeBodyStart],
  ['body', SURVEY.placeBody],
  ['body-end', SURVEY.placeBodyEnd],
] as const;

const STATES: Readonly<Record<string, string>> = {
  noscript: SURVEY.stateNoscript,
  comment: SURVEY.stateComment,
  'conditional-comment': SURVEY.stateConditional,
  template: SURVEY.stateTemplate,
  'inert-type': SURVEY.stateInert,
};

/** All that the newest survey knows of one page: what it is, and what stands in it, in order. */
export function PageView() {
  const site = useSiteKey();
  const [address] = useSearchParams();
  const path = address.get('path') ?? '/';
  const page = useQuery(surveyPageQuery(site, path));
  return (
    <section className="space-y-4">
      <WayBack to={`/sites/${site}/survey/pages`}>{SURVEY.backToPages}</WayBack>
      {page.isPending && <Loading />}
      {page.isError && <Failure error={page.error} onRetry={() => void page.refetch()} />}
      {page.data && <Detail site={site} page={page.data} />}
    </section>
  );
}

function Detail({ site, page }: { site: string; page: Page }) {
  const outcome = outcomeWords(page);
  return (
    <>
      <div className="flex flex-wrap items-start justify-between gap-3">
        <div className="min-w-0">
          <h2 className="font-mono text-base [overflow-wrap:anywhere]">{page.path}</h2>
          <p className="text-sm text-muted">{page.title}</p>
          {outcome && (
            <p className={cn('text-sm', isProblem(page) ? 'text-danger' : 'text-muted')}>{outcome}</p>
          )}
        </div>
        <Button asChild size="small">
          <Link to={`/sites/${site}/strip?path=${encodeURIComponent(page.path)}`}>
            <ScrollText className="size-3.5" aria-hidden /> {SURVEY.asPlanned}
          </Link>
        </Button>
      </div>
      {page.outcome === 'read' && <Facts page={page} />}
      {page.missing.length > 0 && (
        <p role="alert" className="rounded-lg border border-danger/40 bg-danger-soft p-3 text-sm">
          {say(SURVEY.missingParts, { parts: page.missing.join(', ') })}
        </p>
      )}
      <div className="space-y-2">
        <h2>{SURVEY.inOrder}</h2>
        {page.items.length === 0 ? (
          <p className="text-sm text-muted">{SURVEY.nothingIn}</p>
        ) : (
          PLACES.map(([place, label]) => (
            <PlaceGroup
              key={place}
              site={site}
              label={label}
              isHead={place === 'head'}
              items={page.items.filter((item) => item.place === place)}
            />
          ))
        )}
      </div>
    </>
  );
}

function Facts({ page }: { page: Page }) {
  const from = page.charsetFrom === 'not-declared' ? SURVEY.notDeclared : page.charsetFrom;
  return (
    <dl className="grid gap-x-4 gap-y-1 rounded-xl border border-line bg-surface p-4 text-sm sm:grid-cols-[11rem_minmax(0,1fr)]">
      <Fact name={SURVEY.looksLike}>{page.type && SURVEY.pageTypes[page.type]}</Fact>
      <Fact name={SURVEY.language}>{page.language || SURVEY.notDeclared}</Fact>
      <Fact name={SURVEY.encoding}>{`${page.charset} (${from})`}</Fact>
      <Fact name={SURVEY.size}>{say(SURVEY.bytes, { bytes: page.bytes ?? 0 })}</Fact>
      {page.policies.map(({ value, isReportOnly }) => (
        <Header key={value} name={isReportOnly ? SURVEY.policyReport : SURVEY.policy} value={value} />
      ))}
      {page.permissionsPolicy !== null && (
        <Header name={SURVEY.permissionsPolicy} value={page.permissionsPolicy} />
      )}
      {page.embedderPolicy !== null && <Header name={SURVEY.embedderPolicy} value={page.embedderPolicy} />}
      {page.traits.map((trait) => (
        <Fact key={trait} name={TRAIT_WORDS[trait].name}>
          {TRAIT_WORDS[trait].why}
        </Fact>
      ))}
      {page.canonical !== null && <Fact name="">{say(SURVEY.canonical, { canonical: page.canonical })}</Fact>}
    </dl>
  );
}

function Header({ name, value }: { name: string; value: string }) {
  return (
    <Fact name={name}>
      <span className="font-mono text-xs [overflow-wrap:anywhere]">{value}</span>
    </Fact>
  );
}

function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <>
      <dt className="text-muted">{name}</dt>
      <dd className="min-w-0">{children}</dd>
    </>
  );
}

interface PlaceGroupProps {
  readonly site: string;
  readonly label: string;
  readonly isHead: boolean;
  readonly items: readonly Item[];
}

/** What stands in one place of the page, in order: ours and foreign. */
function PlaceGroup({ site, label, isHead, items }: PlaceGroupProps) {
  if (items.length === 0) return undefined;
  return (
    <div
      className={cn(
        'grid gap-2 rounded-xl border-l-4 bg-surface py-2 pr-3 pl-3 sm:grid-cols-[9rem_minmax(0,1fr)]',
        isHead ? 'border-head' : 'border-body',
      )}
    >
      <h3 className="pt-1 text-[13px] font-medium text-muted">{label}</h3>
      <ol className="space-y-1">
        {items.map((item, index) => (
          <li
            key={index}
            className={cn(
              'flex flex-wrap items-center gap-x-2 rounded-md border px-2.5 py-1.5 text-sm',
              item.standing === 'ours' ? 'border-line' : 'border-dashed border-line-strong bg-paper',
            )}
          >
            <Link
              to={
                item.standing === 'ours' && item.snippet !== null
                  ? `/sites/${site}/snippets/${item.snippet}`
                  : `/sites/${site}/survey?open=${item.sighting ?? ''}`
              }
              className="font-medium [overflow-wrap:anywhere] hover:underline"
            >
              {item.name || kindWords(item.kind)}
            </Link>
            <span className="text-[13px] text-muted">
              {STATES[item.state] === undefined
                ? kindWords(item.kind)
                : `${kindWords(item.kind)}, ${STATES[item.state]!}`}
            </span>
            {item.isOwnFile ? (
              <span className="ml-auto text-[13px] text-muted">{SURVEY.ofTheSite}</span>
            ) : (
              <StandingBadge standing={item.standing} className="ml-auto" />
            )}
          </li>
        ))}
      </ol>
    </div>
  );
}
