import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { backupsQuery } from '../../api/backups';
import { BACKUPS } from '../../texts/backups';
import { Section } from '../../ui/section';
import { Failure, Loading } from '../../ui/states';
import { BackupRuleForm } from './backup-rule-form';
import { KeptBackups } from './kept-backups';
import { LastBackup } from './last-backup';
import { RestoreHere } from './restore-here';

/** Copies of the whole installation, for those who own it. */
export function BackupsView() {
  const backups = useQuery(backupsQuery);
  return (
    <main className="mx-auto w-full max-w-4xl space-y-5 px-3 py-6 sm:px-5">
      <div>
        <h1>{BACKUPS.title}</h1>
        <p className="max-w-2xl text-sm text-muted">{BACKUPS.lead}</p>
      </div>
      {backups.isError && <Failure error={backups.error} onRetry={() => void backups.refetch()} />}
      {backups.isPending && <Loading label={BACKUPS.loading} />}
      {backups.data && (
        <>
          <LastBackup list={backups.data} />
          <KeptBackups list={backups.data} />
          <BackupRuleForm rule={backups.data.rule} />
          <RestoreHere />
          <Section title={BACKUPS.restoreTitle} text={BACKUPS.restoreText}>
            <p>
              <Link to="/help/backups#restore-everything" className="underline">
                {BACKUPS.restoreHow}
              </Link>
            </p>
          </Section>
        </>
      )}
    </main>
  );
}
