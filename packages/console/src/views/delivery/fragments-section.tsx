import { useQuery } from '@tanstack/react-query';
import { lineQuery } from '../../api/paste';
import { DELIVERY } from '../../texts/delivery';
import { say } from '../../texts/say';
import { Failure, Loading } from '../../ui/states';
import { CopyText } from './copy-text';

/** What to write into templates and a web server's settings, to copy. */
export function FragmentsSection({ site }: { site: string }) {
  const line = useQuery(lineQuery(site));
  return (
    <section
      aria-label={DELIVERY.fragmentsTitle}
      className="space-y-3 rounded-xl border border-line bg-surface p-4 text-sm sm:p-5"
    >
      <div>
        <h2>{DELIVERY.fragmentsTitle}</h2>
        <p className="text-muted">{DELIVERY.fragmentsText}</p>
      </div>
      {line.isPending && <Loading lines={2} />}
      {line.isError && <Failure error={line.error} onRetry={() => void line.refetch()} />}
      {line.data && (
        <>
          <CopyText
            name={DELIVERY.includes}
            text={line.data.fragments.includes.map(({ ssi }) => ssi).join('\n')}
            then={DELIVERY.includesCopied}
          />
          <CopyText name={DELIVERY.nginx} text={line.data.fragments.nginx} then={DELIVERY.nginxCopied} />
          <p className="text-[13px] text-muted">
            {say(DELIVERY.fragmentsJson, { address: `${line.data.fragments.base}.json?path=/` })}
          </p>
        </>
      )}
    </section>
  );
}
