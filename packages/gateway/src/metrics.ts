import { Counter, Registry } from 'prom-client';

export interface Metrics {
  /** Of this process; the primary adds those of all processes up. */
  readonly gateway: Registry;
  /** Answers that went through the gateway, by outcome: inserted, untouched, failed-open, switched-off. */
  readonly pages: Counter<'outcome'>;
  /** Parts left out by the page itself, by reason. */
  readonly leftOut: Counter<'reason'>;
  /** Answers of the gateway's own making, by reason. */
  readonly refusals: Counter<'reason'>;
}

/** Metrics in the Prometheus text format. Registries of its own for each service, so that several can live in one process. */
export function createMetrics(): Metrics {
  const gateway = new Registry();
  const registers = [gateway];
  return {
    gateway,
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
  };
}
