import type { DiagnosisResource, DoctorEvent } from '@pragmatica/contract';
import { useCallback, useEffect } from 'react';
import { api } from '../../api/client';
import { DOCTOR } from '../../texts/doctor';
import { useStream } from '../../ui/use-stream';

interface Seen {
  readonly progress?: Extract<DoctorEvent, { type: 'progress' }>;
  readonly diagnoses?: readonly DiagnosisResource[];
}

const OPTIONS = {
  initial: {} as Seen,
  fold: (_: Seen, event: DoctorEvent): Seen =>
    event.type === 'progress' ? { progress: event } : { diagnoses: event.diagnoses },
  isLast: ({ type }: DoctorEvent) => type === 'done',
  brokeOff: DOCTOR.broke,
};

/** Examines the installation at once, and again when asked. Leaving the view ends it. */
export function useExamination() {
  const { value, error, run } = useStream(OPTIONS);
  const begin = useCallback(
    async () => run((signal) => api.stream('examineInstallation', {}, signal)),
    [run],
  );
  useEffect(() => void begin(), [begin]);
  return { ...value, error, run: begin };
}
