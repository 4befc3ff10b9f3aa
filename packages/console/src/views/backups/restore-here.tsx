import type { RestoreEvent } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { restoreFile } from '../../api/backups';
import { allSitesQuery } from '../../api/site-lists';
import { BACKUPS } from '../../texts/backups';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { ChooseFile } from '../../ui/choose-file';
import { FormError } from '../../ui/field';
import { Section } from '../../ui/section';
import { timeWords } from '../../ui/time';
import { useLoad } from './use-load';

/** A whole backup into this installation, as long as there is nothing in it. */
export function RestoreHere() {
  const sites = useQuery(allSitesQuery);
  const load = useLoad<RestoreEvent>();
  const { isRunning, progress, result, error } = load;
  if (!result && (sites.data === undefined || sites.data.length > 0)) return null;
  return (
    <Section title={BACKUPS.restoreHere} text={BACKUPS.restoreHereText}>
      {result ? (
        <div role="status" className="space-y-2">
          <p className="font-medium">{BACKUPS.restoredTitle}</p>
          <p>
            {say(BACKUPS.restored, {
              sites: result.sites,
              members: result.members,
              when: timeWords(result.madeAt),
            })}
          </p>
          <Button look="primary" onClick={() => window.location.assign('/')}>
            {BACKUPS.signIn}
          </Button>
        </div>
      ) : isRunning ? (
        <div className="flex flex-wrap items-center gap-3">
          <p role="status" className="flex-1">
            {progress ? say(BACKUPS.restoring, progress) : BACKUPS.sending}
          </p>
          <Button onClick={load.stop}>{BACKUPS.stop}</Button>
        </div>
      ) : (
        <ChooseFile
          label={BACKUPS.chooseFile}
          accept=".gz,.tar,application/gzip,application/x-tar"
          onChoose={(file) => void load.run((signal) => restoreFile(file, signal))}
        >
          {BACKUPS.chooseFile}
        </ChooseFile>
      )}
      <FormError error={error} />
    </Section>
  );
}
