import { Counter, Gauge, Registry, collectDefaultMetrics } from 'prom-client';

export interface Metrics {
  readonly registry: Registry;
  /** Answers that went through the gateway, by outcome: inserted, untouched, failed-open. */
  readonly pages: Counter<'outcome'>;
  /** Parts left out by the page itself, by reason. */
  readonly leftOut: Counter<'reason'>;
  /** Answers of the gateway's own making, by reason. */
  readonly refusals: Counter<'reason'>;
  readonly releases: Gauge;
}

/** Metrics in the Prometheus text format. One registry per service, so that several can live in one process. */
export function createMetrics(): Metrics {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const registers = [registry];
  return {
    registry,
    pages: new Counter({
      name: 'pragmatica_gateway_pages_total',
      help: 'Answers of origins through the gateway, by outcome',
      labelNames: ['outcome'],
      registers,
    }),
    leftOut: new Counter({
      name: 'pragmatica_gateway_parts_left_out_total',
      help: 'Parts that found no place in a page, by reason',
      labelNames: ['reason'],
      registers,
    }),
    refusals: new Counter({
      name: 'pragmatica_gateway_refusals_total',
      help: 'Requests that the gateway answered itself, by reason',
      labelNames: ['reason'],
      registers,
    }),
    releases: new Gauge({
      name: 'pragmatica_gateway_hosts',
      help: 'Hosts that the gateway serves',
      registers,
    }),
  };
}
