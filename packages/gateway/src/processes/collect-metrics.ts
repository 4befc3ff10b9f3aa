import type { Worker } from 'node:cluster';
import { AggregatorRegistry, type MetricObject, type Registry } from 'prom-client';

const WANTS_METRICS = 'pragmatica:metrics';
const ANSWER_MS = 1_000;

interface MetricsMessage {
  readonly metrics: MetricObject[];
}

/** In a serving process: answers the question for its metrics. */
export function offerMetrics(registry: Registry): void {
  process.on('message', (message) => {
    if (message !== WANTS_METRICS) return;
    void registry.getMetricsAsJSON().then((metrics) => process.send?.({ metrics }));
  });
}

/**
 * The metrics of these processes, added up, in the Prometheus text format. One that does not answer in time is left
 * out, as its counts are when it dies.
 */
export async function collectMetrics(workers: readonly Worker[]): Promise<string> {
  const answers = await Promise.all(workers.map(ask));
  return AggregatorRegistry.aggregate(answers.filter((answer) => answer !== undefined)).metrics();
}

function ask(worker: Worker): Promise<MetricObject[] | undefined> {
  return new Promise((resolve) => {
    const done = (answer: MetricObject[] | undefined): void => {
      clearTimeout(late);
      worker.off('message', hear);
      resolve(answer);
    };
    const hear = (message: unknown): void => {
      if (typeof message === 'object' && message !== null && 'metrics' in message)
        done((message as MetricsMessage).metrics);
    };
    const late = setTimeout(() => done(undefined), ANSWER_MS);
    worker.on('message', hear);
    worker.send(WANTS_METRICS, (error) => {
      if (error) done(undefined);
    });
  });
}
