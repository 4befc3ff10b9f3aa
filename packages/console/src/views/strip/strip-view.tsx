import { useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useEffect, useRef, type ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { surveyPageQuery, type SurveyedItem } from '../../api/surveys';
import { diffQuery, draftQuery, findingsQuery, pagesQuery, planQuery, siteQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { Button } from '../../ui/button';
import { Empty, Failure, Loading } from '../../ui/states';
import { LeftOutPanel } from './left-out-panel';
import { NotLivePanel } from './not-live-panel';
import { OrderPanel } from './order-panel';
import { PageStrip } from './page-strip';
import { readQuestion, toQuery, writeQuestion, type Question } from './question';
import { QuestionBar } from './question-bar';
import { STRIP } from '../../texts/strip';

/** What a page has itself, where a survey has read it. */
function useForeign(
  site: string,
  path: string,
  pages: { readonly paths: readonly string[]; readonly source: string } | undefined,
): readonly SurveyedItem[] {
  const isSurveyed = pages?.source === 'survey' && pages.paths.includes(path);
  const page = useQuery({ ...surveyPageQuery(site, path), enabled: isSurveyed });
  return (isSurveyed && page.data?.items.filter(({ standing }) => standing !== 'ours')) || [];
}

/**
 * The question in the address, and what changes it. The address follows a moment after it was changed: what is changed within
 * that moment is a change to what was asked last, not to what the address still says.
 */
function useQuestion(): { question: Question; ask: (change: Partial<Question>) => void } {
  const [search, setSearch] = useSearchParams();
  const question = readQuestion(search);
  const askedLast = useRef<Question>(undefined);
  useEffect(() => {
    const isThere = new URLSearchParams(askedLast.current && writeQuestion(askedLast.current));
    if (isThere.toString() === search.toString()) askedLast.current = undefined;
  }, [search]);
  const ask = (change: Partial<Question>): void => {
    askedLast.current = { ...(askedLast.current ?? question), ...change };
    setSearch(writeQuestion(askedLast.current), { replace: true });
  };
  return { question, ask };
}

/** The picture of one page load, the question it answers, and what is missing from it. */
export function StripView() {
  const key = useSiteKey();
  const { question, ask } = useQuestion();
  const { of } = question;
  const site = useQuery(siteQuery(key));
  const pages = useQuery(pagesQuery(key));
  const draft = useQuery(draftQuery(key));
  const plan = useQuery({ ...planQuery(key, toQuery(question)), placeholderData: (previous) => previous });
  const changes = useQuery(diffQuery(key, 'live', 'draft'));
  const findings = useQuery({ ...findingsQuery(key), enabled: of === 'draft' });
  const foreign = useForeign(key, question.path, pages.data);
  const error = plan.error ?? draft.error;

  if (draft.data?.data.snapshot.snippets.length === 0) {
    return (
      <Empty
        title={STRIP.noSnippetsYet}
        action={
          <div className="flex flex-wrap justify-center gap-2">
            <Button asChild look="primary" needs="edit">
              <Link to="../snippets/new">
                <Plus className="size-4" aria-hidden /> {STRIP.addFirstSnippet}
              </Link>
            </Button>
            <Button asChild>
              <Link to="../start">{STRIP.firstSteps}</Link>
            </Button>
          </div>
        }
      >
        {STRIP.pasteCodeProvider}
      </Empty>
    );
  }
  /** Beside the page where there is room, below it where there is none. */
  const leftOut = (className: string): ReactNode =>
    plan.data && (
      <LeftOutPanel
        site={key}
        plan={plan.data}
        isEditable={of === 'draft'}
        onShowDraft={() => ask({ of: 'draft' })}
        className={className}
      />
    );
  return (
    <div className="space-y-4">
      <QuestionBar site={site.data?.data} pages={pages.data} question={question} onAsk={ask} />
      {error && <Failure error={error} onRetry={() => void plan.refetch()} />}
      <div className="grid items-start gap-5 xl:grid-cols-[minmax(0,1fr)_21rem]">
        {plan.data && draft.data ? (
          <PageStrip
            site={key}
            plan={plan.data}
            draft={draft.data}
            changes={changes.data?.changes ?? []}
            findings={of === 'draft' ? (findings.data?.items ?? []) : []}
            isEditable={of === 'draft'}
            foreign={foreign}
          />
        ) : (
          !error && <Loading lines={6} label={STRIP.loadingPageStrip} />
        )}
        <aside className="space-y-4 max-xl:row-start-1 xl:sticky xl:top-17">
          {of === 'draft' && <OrderPanel site={key} />}
          <NotLivePanel site={key} path={question.path} draft={draft.data} diff={changes.data} />
          {leftOut('max-xl:hidden')}
        </aside>
        {leftOut('xl:hidden')}
      </div>
    </div>
  );
}
