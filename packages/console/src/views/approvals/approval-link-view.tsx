import { ApiError, type ApprovalSheet } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { useSyncExternalStore } from 'react';
import { hasFailed } from '../../api/failed';
import { approvalSheetQuery, useDecideByLink } from '../../api/approvals';
import { APPROVALS } from '../../texts/approvals';
import { say } from '../../texts/say';
import { Failure, Loading } from '../../ui/states';
import { ApprovalContent } from './approval-content';
import { DecisionForm } from './decision-form';
import { stateWords } from './state-words';

/** What a client sees who only approves. */
export function ApprovalLinkView() {
  const secret = useSyncExternalStore(onHashChange, () => window.location.hash.slice(1));
  const sheet = useQuery({ ...approvalSheetQuery(secret), enabled: secret !== '' });
  const isOver =
    secret === '' || (sheet.error instanceof ApiError && [404, 422].includes(sheet.error.status));
  return (
    <main className="mx-auto w-full max-w-3xl space-y-4 px-4 py-6">
      {isOver ? (
        <div className="rounded-xl border border-line bg-surface p-6 text-center">
          <h1>{APPROVALS.overTitle}</h1>
          <p className="mt-2 text-muted">{APPROVALS.overText}</p>
        </div>
      ) : sheet.data ? (
        <Sheet sheet={sheet.data} secret={secret} />
      ) : hasFailed(sheet) ? (
        <Failure error={sheet.error} onRetry={() => void sheet.refetch()} />
      ) : (
        <Loading label={APPROVALS.opening} />
      )}
    </main>
  );
}

function onHashChange(listener: () => void): () => void {
  window.addEventListener('hashchange', listener);
  return () => window.removeEventListener('hashchange', listener);
}

function Sheet({ sheet, secret }: { sheet: ApprovalSheet; secret: string }) {
  const decide = useDecideByLink(secret);
  const { siteName: site, name, requestedBy: by, message, state, note } = sheet;
  const isLooked = state === 'open' || state === 'approved';
  const thanks = { approved: APPROVALS.thanksApproved, declined: APPROVALS.thanksDeclined };
  return (
    <>
      <div>
        <h1>{say(APPROVALS.sheetTitle, { site })}</h1>
        <p className="mt-1 text-sm text-muted">{say(APPROVALS.sheetText, { name, by, message })}</p>
      </div>
      {(state !== 'open' || decide.isSuccess) && (
        <div role="status" className="rounded-xl border border-line bg-surface p-4 text-sm">
          <p className="font-medium">
            {decide.isSuccess && (state === 'approved' || state === 'declined')
              ? thanks[state]
              : stateWords(sheet)}
          </p>
          {note !== '' && <p className="mt-1 [overflow-wrap:anywhere]">“{note}”</p>}
        </div>
      )}
      {isLooked && (
        <>
          <ApprovalContent detail={sheet} />
          <DecisionForm
            state={state}
            isBusy={decide.isPending}
            error={decide.error}
            onDecide={(decided) => decide.mutate(decided)}
          />
        </>
      )}
    </>
  );
}
