import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { hasFailed } from '../../api/failed';
import { approvalQuery, useDecide, useWithdrawApproval } from '../../api/approvals';
import { sessionQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { APPROVALS } from '../../texts/approvals';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { useMay } from '../../ui/may';
import { Failure, Loading } from '../../ui/states';
import { Time } from '../../ui/time';
import { useToast } from '../../ui/toast';
import { WayBack } from '../../ui/way-back';
import { ApprovalContent } from './approval-content';
import { DecisionForm } from './decision-form';
import { LinkButton } from './link-button';
import { stateWords } from './state-words';

/** A request for approval: what would change, and what is decided. */
export function ApprovalView() {
  const site = useSiteKey();
  const id = Number(useParams()['approval']);
  const approval = useQuery(approvalQuery(site, id));
  const session = useQuery(sessionQuery);
  const decide = useDecide(site, id);
  const withdraw = useWithdrawApproval(site, id);
  const mayPublish = useMay('publish');
  const toast = useToast();
  if (approval.isPending) return <Loading label={APPROVALS.loading} />;
  if (hasFailed(approval)) return <Failure error={approval.error} onRetry={() => void approval.refetch()} />;
  const { data } = approval;
  const { state, message, requestedBy, requestedAt, release, note, whyNot } = data;
  const isLooked = state === 'open' || state === 'approved';
  const mayWithdraw = isLooked && (requestedBy === session.data?.login || mayPublish);
  return (
    <div className="max-w-4xl space-y-4">
      <WayBack to="../releases">{APPROVALS.back}</WayBack>
      <div>
        <h1>{say(APPROVALS.heading, { message })}</h1>
        <p className="text-sm text-muted">
          {release !== null && `${say(APPROVALS.ofRelease, { release })} · `}
          {say(APPROVALS.askedBy, { by: requestedBy })}, <Time at={requestedAt} />
        </p>
      </div>
      <div role="status" className="rounded-xl border border-line bg-surface p-4 text-sm">
        <p className="font-medium">{stateWords(data)}</p>
        {note !== '' && <p className="mt-1 [overflow-wrap:anywhere]">“{note}”</p>}
        {state === 'void' && (
          <p className="mt-1">
            {APPROVALS.voidText}{' '}
            <Link to="../strip" className="underline">
              {APPROVALS.toDraft}
            </Link>
          </p>
        )}
        {state === 'approved' && (
          <p className="mt-1">
            <Link to={release === null ? '../strip' : '../releases'} className="underline">
              {release === null ? APPROVALS.publishNow : APPROVALS.releaseNow}
            </Link>
          </p>
        )}
        {isLooked && (
          <div className="mt-3 flex flex-wrap gap-2">
            <LinkButton site={site} approval={id} />
            {mayWithdraw && (
              <Button
                look="quiet"
                isBusy={withdraw.isPending}
                onClick={() =>
                  withdraw.run(undefined, () => toast({ tone: 'done', title: APPROVALS.withdrawn }))
                }
              >
                {APPROVALS.withdraw}
              </Button>
            )}
          </div>
        )}
      </div>
      {isLooked && (
        <>
          <ApprovalContent
            detail={data}
            toRound={(round) => (
              <Link to={`../check/browser/${round}`} className="underline">
                {say(APPROVALS.toRound, { round })}
              </Link>
            )}
            toRehearsal={
              <Link to="../check/browser" className="underline">
                {APPROVALS.rehearse}
              </Link>
            }
          />
          {whyNot === 'own' ? (
            <p className="text-sm text-muted">{APPROVALS.own}</p>
          ) : (
            <DecisionForm
              state={state}
              isBusy={decide.isPending}
              error={decide.error}
              onDecide={(decided) =>
                decide.run(decided, () =>
                  toast(
                    decided.decision === 'approved'
                      ? { tone: 'done', title: APPROVALS.approved, text: APPROVALS.approvedText }
                      : { tone: 'done', title: APPROVALS.declined },
                  ),
                )
              }
            />
          )}
        </>
      )}
    </div>
  );
}
