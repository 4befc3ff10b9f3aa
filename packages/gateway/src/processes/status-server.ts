import { createServer, type Server } from 'node:http';

export interface Status {
  /** Processes that serve visitors at the moment. */
  readonly serving: () => number;
  /** Whether releases come from the database, or from disk while it is away. */
  readonly isConnected: () => boolean;
  /** In the Prometheus text format. */
  readonly metrics: () => Promise<string>;
}

/**
 * Health and metrics of a gateway, for whoever operates it; on a port of its own, which visitors never reach. A
 * gateway without its database is ready: it serves what it has.
 */
export function createStatusServer({ serving, isConnected, metrics }: Status): Server {
  return createServer((request, response) => {
    const text = (status: number, body: string, type = 'text/plain; charset=utf-8'): void => {
      response.writeHead(status, { 'content-type': type, 'cache-control': 'no-store' }).end(body);
    };
    switch (request.url) {
      case '/healthz':
        text(200, 'ok\n');
        break;
      case '/readyz':
        if (serving() === 0) text(503, 'no process serves visitors\n');
        else text(200, isConnected() ? 'ready\n' : 'ready; the database does not answer\n');
        break;
      case '/metrics':
        metrics().then(
          (all) => text(200, all, 'text/plain; version=0.0.4; charset=utf-8'),
          () => text(503, 'the metrics could not be collected\n'),
        );
        break;
      default:
        text(404, 'Here are /healthz, /readyz and /metrics.\n');
    }
  });
}
