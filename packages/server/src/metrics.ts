import { Registry, collectDefaultMetrics } from 'prom-client';

/** Metrics of the service in the Prometheus text format; a registry of its own, so that several can live in one process. */
export function createMetrics(): Registry {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  return registry;
}
