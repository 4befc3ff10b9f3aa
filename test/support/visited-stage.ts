import type {
  SnippetInput,
  TroubleAnswerResource,
  VisitRoundDetail,
  VisitRoundInput,
  WhyAnswerResource,
  WhyInput,
} from '@pragmatica/contract';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { setWatch } from '@pragmatica/demo';
import { listen, startStage, type Stage } from './stage.js';
import { visitSite } from './visits.js';

export type Answer = (request: IncomingMessage, response: ServerResponse) => void;

/** A site of its own behind the gateway of a stage, whose pages, snippets and providers a test makes. */
export interface VisitedStage {
  readonly stage: Stage;
  /** Where providers answer, as any name below `.localhost`. */
  readonly port: number;
  /** Answers by host and path, as `quaychat.localhost/c.js`; pages of the site by path alone. */
  answers: Readonly<Record<string, Answer | string>>;
  /** Replaces the site's snippets and publishes them. */
  publish(snippets: readonly SnippetInput[]): Promise<void>;
  /** The same without publishing. */
  draft(snippets: readonly SnippetInput[]): Promise<void>;
  verify(input?: VisitRoundInput): Promise<VisitRoundDetail>;
  why(input: WhyInput): Promise<readonly { readonly type: string; readonly answer?: WhyAnswerResource }[]>;
  trouble(path: string): Promise<TroubleAnswerResource>;
  close(): Promise<void>;
}

export const SITE = 'quay';

/** @param settings - of service and worker, besides what a stage has */
export async function startVisitedStage(settings: Record<string, string> = {}): Promise<VisitedStage> {
  const stage = await startStage({ hasDemo: false, hasWorker: true, settings });
  let answers: Readonly<Record<string, Answer | string>> = {};
  const host = `${SITE}.localhost`;
  const { server, port } = await listen(
    createServer((request, response) => {
      const asked = (request.headers.host ?? '').replace(/:\d+$/, '');
      const path = (request.url ?? '/').split('?', 1)[0]!;
      const answer = asked === host || asked === 'localhost' ? answers[path] : answers[asked + path];
      if (typeof answer === 'function') answer(request, response);
      else if (answer === undefined)
        response.writeHead(404, { 'content-type': 'text/plain' }).end('nothing here');
      else {
        const type = path.endsWith('.js')
          ? 'text/javascript'
          : path.endsWith('.css')
            ? 'text/css'
            : 'text/html';
        response.writeHead(200, { 'content-type': `${type}; charset=utf-8` }).end(answer);
      }
    }),
  );
  await stage.client.call('createSite', {
    body: {
      key: SITE,
      name: 'Quay',
      hosts: [
        {
          host,
          environment: 'live',
          origin: `http://localhost:${port}`,
          address: `http://${host}:${stage.gatewayPort}`,
        },
      ],
    },
  });
  const params = { site: SITE };
  // Tests say when somebody goes and looks.
  await setWatch(stage.client, SITE, { afterPublishing: 'nothing' });
  const draft = async (snippets: readonly SnippetInput[]): Promise<void> => {
    const { data } = await stage.client.call('showDraft', { params });
    for (const { key } of data.snapshot.snippets) {
      const { etag } = await stage.client.call('showSnippet', { params: { ...params, snippet: key } });
      await stage.client.call('removeSnippet', { params: { ...params, snippet: key }, ifMatch: etag });
    }
    for (const snippet of snippets)
      await stage.client.call('createSnippet', {
        params,
        body: {
          ...snippet,
          parts: snippet.parts.map((part) => ({ ...part, code: part.code.replaceAll(':PORT', `:${port}`) })),
        },
      });
  };
  return {
    stage,
    port,
    get answers() {
      return answers;
    },
    set answers(all) {
      answers = all;
    },
    draft,
    async publish(snippets) {
      await draft(snippets);
      const { etag } = await stage.client.call('showDraft', { params });
      await stage.client.call('publish', {
        params,
        ifMatch: etag,
        body: { message: 'Test', force: 'To see what visits find.' },
      });
    },
    verify: (input) => visitSite(stage.client, params.site, input),
    async why(input) {
      const events: { type: string; answer?: WhyAnswerResource }[] = [];
      for await (const event of stage.client.stream('why', { params, body: input })) events.push(event);
      return events;
    },
    async trouble(path) {
      for await (const event of stage.client.stream('findTrouble', { params, body: { path } }))
        if (event.type === 'answer') return event.answer;
      throw new Error('no answer');
    },
    async close() {
      await stage.close();
      server.closeAllConnections();
      server.close();
    },
  };
}

/** A snippet of one part. */
export function plain(key: string, code: string, more: Partial<SnippetInput> = {}): SnippetInput {
  return { key, name: key, parts: [{ placement: 'head-end', code }], ...more };
}
