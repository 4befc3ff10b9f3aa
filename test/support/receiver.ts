import { createServer, type Server } from 'node:http';
import { listen } from './stage.js';

/** A program that is told: keeps what it gets, and answers as it is bidden. */
export interface Receiver {
  readonly url: string;
  readonly got: { readonly headers: Record<string, string>; readonly body: string }[];
  status: number;
  readonly server: Server;
}

/** At an address of this machine. */
export async function startReceiver(): Promise<Receiver> {
  const got: Receiver['got'] = [];
  const state = { status: 204 };
  const { server, port } = await listen(
    createServer((request, response) => {
      let body = '';
      request.on('data', (chunk) => (body += String(chunk)));
      request.on('end', () => {
        got.push({ headers: request.headers as Record<string, string>, body });
        response.writeHead(state.status, { location: 'http://elsewhere.test/' }).end();
      });
    }),
  );
  return {
    url: `http://127.0.0.1:${port}/told`,
    got,
    server,
    get status() {
      return state.status;
    },
    set status(status) {
      state.status = status;
    },
  };
}
