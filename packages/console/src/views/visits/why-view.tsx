import { DEVICES, deviceName, type Device } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { LoaderCircle, Search } from 'lucide-react';
import { useEffect, useId, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { draftQuery, pagesQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { VISITS } from '../../texts/visits';
import { Button } from '../../ui/button';
import { Labelled } from '../../ui/labelled';
import { PageCombobox } from '../../ui/page-combobox';
import { SelectField } from '../../ui/select-field';
import { Failure } from '../../ui/states';
import { TroubleAnswer } from './trouble-answer';
import { useQuestion, type AskedQuestion } from './use-question';
import { WhyAnswer } from './why-answer';

/** No snippet has this key: nothing is chosen yet. */
const UNDECIDED = '?';

/** Why doesn't it show? One question, one answer. The question stands in the address, so that it can be sent to somebody. */
export function WhyView() {
  const site = useSiteKey();
  const [search, setSearch] = useSearchParams();
  const snippets = useQuery(draftQuery(site)).data?.data.snapshot.snippets ?? [];
  const pages = useQuery(pagesQuery(site)).data?.paths ?? [];
  const { answering, ask } = useQuestion(site);
  const [question, setQuestion] = useState<AskedQuestion>(() => readQuestion(search));
  const change = (with_: Partial<AskedQuestion>): void =>
    setQuestion((current) => ({ ...current, ...with_ }));
  const isGiven = search.has('snippet') || search.has('path');
  // Whoever comes with a question has asked it.
  useEffect(() => {
    if (isGiven) ask(readQuestion(search));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, for the address that one comes with
  }, []);
  const list = useId();
  const send = (): void => {
    setSearch(
      { snippet: question.snippet, path: question.path, device: question.device, consent: question.consent },
      { replace: true },
    );
    ask(question);
  };
  const { state, progress, why, trouble, seen, error } = answering;
  return (
    <div className="max-w-4xl space-y-4">
      <div>
        <h1>{VISITS.whyTitle}</h1>
        <p className="text-sm text-muted">{VISITS.whyLead}</p>
      </div>
      <form
        className="grid gap-3 rounded-xl border border-line bg-surface p-4 sm:grid-cols-2 lg:grid-cols-4"
        onSubmit={(event) => {
          event.preventDefault();
          send();
        }}
      >
        <SelectField
          label={VISITS.what}
          value={question.snippet}
          options={[
            [UNDECIDED, VISITS.chooseSnippet],
            ...snippets.map(({ key, name }): [string, string] => [key, name]),
            ['', VISITS.wholePage],
          ]}
          onChange={(snippet) => change({ snippet })}
        />
        <Labelled id={`${list}-page`} label={VISITS.page}>
          <PageCombobox
            id={`${list}-page`}
            paths={pages}
            path={question.path}
            onChoose={(path) => change({ path })}
            className="h-9.5"
          />
        </Labelled>
        <SelectField
          label={VISITS.device}
          value={question.device}
          options={DEVICES.toReversed().map((device): [string, string] => [device, deviceName(device)])}
          onChange={(device) => change({ device: device as Device })}
        />
        <SelectField
          label={VISITS.consentOf}
          value={question.consent}
          options={[
            ['none', VISITS.consentNone],
            ['all', VISITS.consentAll],
          ]}
          onChange={(consent) => change({ consent: consent === 'all' ? 'all' : 'none' })}
        />
        <div className="sm:col-span-2 lg:col-span-4">
          <Button
            type="submit"
            look="primary"
            isBusy={state === 'asking'}
            disabled={question.snippet === UNDECIDED}
          >
            {state !== 'asking' && <Search className="size-4" aria-hidden />} {VISITS.ask}
          </Button>
        </div>
      </form>
      {state === 'idle' && <p className="text-sm text-muted">{VISITS.whyEmpty}</p>}
      {state === 'asking' && (
        <p role="status" className="flex items-center gap-2 text-sm text-muted">
          <LoaderCircle className="size-4 animate-spin" aria-hidden /> {progress}
        </p>
      )}
      {error && <Failure error={error} onRetry={send} />}
      {why && <WhyAnswer answer={why} />}
      {trouble && <TroubleAnswer site={site} answer={trouble} />}
      {seen && (
        <Link
          to={`/sites/${site}/check/browser/${seen.round}${seen.visit === undefined ? '/1' : `/${seen.visit}`}`}
          className="inline-block text-sm text-primary hover:underline"
        >
          {seen.visit === undefined ? VISITS.seeRound : VISITS.seeVisit}
        </Link>
      )}
    </div>
  );
}

function readQuestion(search: URLSearchParams): AskedQuestion {
  const path = search.get('path') ?? '/';
  const device = search.get('device') as Device | null;
  return {
    snippet: search.get('snippet') ?? (search.has('path') ? '' : UNDECIDED),
    path: path.startsWith('/') ? path : '/',
    device: device !== null && DEVICES.includes(device) ? device : 'desktop',
    consent: search.get('consent') === 'all' ? 'all' : 'none',
  };
}
