import type { DiagnosisResource } from '@pragmatica/contract';
import { CircleCheck, CircleX, TriangleAlert } from 'lucide-react';
import { DOCTOR } from '../../texts/doctor';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { Section } from '../../ui/section';
import { Failure, Loading } from '../../ui/states';
import { useExamination } from './use-examination';

/** Whether the installation is well, for those who own it. */
export function DoctorView() {
  const { progress, diagnoses, error, run } = useExamination();
  const wrong = diagnoses?.filter(({ health }) => health !== 'well') ?? [];
  const well = diagnoses?.filter(({ health }) => health === 'well') ?? [];
  const problems = wrong.filter(({ health }) => health === 'problem').length;
  return (
    <main className="mx-auto w-full max-w-4xl space-y-5 px-3 py-6 sm:px-5">
      <div className="flex flex-wrap items-start justify-between gap-3">
        <div className="min-w-52 flex-1">
          <h1>{DOCTOR.title}</h1>
          <p className="text-sm text-muted">{DOCTOR.lead}</p>
        </div>
        {(diagnoses ?? error) && <Button onClick={() => void run()}>{DOCTOR.again}</Button>}
      </div>
      {error && <Failure error={error} onRetry={() => void run()} />}
      <p role="status" className="text-sm font-medium">
        {progress && say(DOCTOR.examining, progress)}
        {diagnoses &&
          (wrong.length === 0
            ? DOCTOR.allWell
            : say(DOCTOR.found, { problems, warnings: wrong.length - problems }))}
      </p>
      {!diagnoses && !error && <Loading lines={5} />}
      {wrong.length > 0 && <Diagnoses title={DOCTOR.wrong} items={sortedByNeed(wrong)} />}
      {well.length > 0 && <Diagnoses title={DOCTOR.well} items={well} />}
    </main>
  );
}

function sortedByNeed(items: readonly DiagnosisResource[]): readonly DiagnosisResource[] {
  return items.toSorted((a, b) => Number(b.health === 'problem') - Number(a.health === 'problem'));
}

const SIGNS = { well: CircleCheck, warning: TriangleAlert, problem: CircleX } as const;
const LOOKS = { well: 'text-good', warning: 'text-signal', problem: 'text-danger' } as const;

function Diagnoses({ title, items }: { title: string; items: readonly DiagnosisResource[] }) {
  return (
    <Section title={title}>
      <ul className="divide-y divide-line">
        {items.map(({ id, title: what, about, health, said, advice }) => {
          const Sign = SIGNS[health];
          return (
            <li key={`${id} ${about ?? ''}`} className="flex items-start gap-3 py-2.5">
              <Sign
                className={cn('mt-0.5 size-4 shrink-0', LOOKS[health])}
                role="img"
                aria-label={DOCTOR.health[health]}
              />
              <div className="min-w-0 flex-1 [overflow-wrap:anywhere]">
                <p>
                  <span className="font-medium">{what}</span>
                  {about !== null && <span className="text-muted"> {about}</span>}
                </p>
                <p>{said}</p>
                {advice !== '' && <p className="text-muted">{advice}</p>}
              </div>
            </li>
          );
        })}
      </ul>
    </Section>
  );
}
