import fc from 'fast-check';
import { api } from '../support/http.js';
import { startStage } from '../support/stage.js';

interface Operation {
  readonly method: string;
  readonly path: string;
  readonly parameters: readonly { readonly name: string; readonly in: string; readonly schema: Schema }[];
  readonly body: Schema | undefined;
}

type Schema = Readonly<Record<string, unknown>>;

const MAX_MS = 15_000;
const NASTY = [
  '',
  '\0',
  '\ud800',
  '\u001b[2J',
  '9'.repeat(400),
  '../..',
  '%00',
  '<script>',
  '@{a}',
  '-1',
  'null',
  '𝒳',
];

/** Values for a schema: mostly ones that fit, so that they come through, and some that do not. */
function valueFor(schema: Schema, components: Record<string, Schema>, depth: number): fc.Arbitrary<unknown> {
  const wild = fc.oneof(fc.constantFrom(...NASTY), fc.jsonValue({ maxDepth: 2 }));
  const reference = schema['$ref'] as string | undefined;
  if (reference)
    return depth > 6 ? wild : valueFor(components[reference.split('/').at(-1)!]!, components, depth + 1);
  const choices = (schema['anyOf'] ?? schema['oneOf']) as Schema[] | undefined;
  const fitting = (): fc.Arbitrary<unknown> => {
    if (choices) return fc.oneof(...choices.map((one) => valueFor(one, components, depth + 1)));
    if (Array.isArray(schema['enum'])) return fc.constantFrom(...(schema['enum'] as unknown[]));
    if ('const' in schema) return fc.constant(schema['const']);
    switch (schema['type']) {
      case 'object': {
        const properties = (schema['properties'] ?? {}) as Record<string, Schema>;
        const required = (schema['required'] ?? []) as string[];
        return fc.record(
          Object.fromEntries(
            Object.entries(properties).map(([name, one]) => [name, valueFor(one, components, depth + 1)]),
          ),
          { requiredKeys: required },
        );
      }
      case 'array':
        return fc.array(valueFor((schema['items'] ?? {}) as Schema, components, depth + 1), { maxLength: 3 });
      case 'integer':
      case 'number':
        return fc.oneof(fc.integer({ min: 0, max: 50 }), fc.integer(), fc.double());
      case 'boolean':
        return fc.boolean();
      case 'string':
        return fc.oneof(
          fc.constantFrom(
            'skerrywick',
            'harbour-chat',
            'live',
            '1',
            'draft',
            '/fares',
            'body-end',
            '2027-03-31',
            '*',
            'a',
          ),
          fc.string({ maxLength: 20, unit: 'binary' }),
        );
      default:
        return wild;
    }
  };
  return fc.oneof({ weight: 12, arbitrary: fitting() }, { weight: 1, arbitrary: wild });
}

/** Calls of everything that the API says of itself, with whatever comes; none may be answered with 5xx, or late. */
export async function fuzzApi(
  seed: number,
  until: number,
  judge: (input: string, fault: string | undefined) => void,
): Promise<void> {
  const stage = await startStage();
  try {
    const { json } = await api(stage.server, stage.token, 'GET', '/openapi.json');
    const components = (json['components'] as { schemas: Record<string, Schema> }).schemas;
    const operations = operationsOf(json['paths'] as Record<string, Record<string, never>>);
    for (let round = 0; Date.now() < until; round++)
      for (const operation of operations) {
        if (Date.now() >= until) break;
        const { method, parameters, body } = operation;
        // The token goes on being valid.
        if (/\/session|\/tokens\/|verifications/.test(operation.path) && method !== 'GET') continue;
        const [made] = fc.sample(
          fc.tuple(
            fc.tuple(...parameters.map(({ schema }) => valueFor(schema, components, 0))),
            body ? valueFor(body, components, 0) : fc.constant(undefined),
            fc.constantFrom('*', '"x"', '', 'W/"1"'),
          ),
          { seed: seed + round * 1_000 + operations.indexOf(operation), numRuns: 1 },
        );
        const [values, sent, ifMatch] = made!;
        let path = operation.path;
        const query: string[] = [];
        parameters.forEach(({ name, in: place }, i) => {
          const text = encode(values[i]);
          if (place === 'path') path = path.replace(`{${name}}`, text || 'skerrywick');
          else if (place === 'query' && values[i] !== undefined) query.push(`${name}=${text}`);
        });
        const target = query.length > 0 ? `${path}?${query.join('&')}` : path;
        const input = JSON.stringify({ method, target, sent, ifMatch });
        const begin = Date.now();
        const fault = await api(stage.server, stage.token, method, target, sent, {
          'if-match': ifMatch,
        }).then(
          ({ status, text }) =>
            // A call that nobody was let in for tries nothing.
            status >= 500 || (status === 401 && operation.path !== '/sign-in')
              ? `${status}: ${text.slice(0, 300)}`
              : Date.now() - begin > MAX_MS
                ? `answered after ${Date.now() - begin} ms`
                : undefined,
          // What Node's own client refuses to send never reaches the service.
          (error: unknown) => (/ERR_|unescaped|JSON/.test(String(error)) ? undefined : String(error)),
        );
        judge(input, fault);
      }
  } finally {
    await stage.close();
  }
}

function operationsOf(paths: Record<string, Record<string, unknown>>): Operation[] {
  return Object.entries(paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, described]) => {
      const { parameters = [], requestBody } = described as {
        parameters?: Operation['parameters'];
        requestBody?: { content: Record<string, { schema: Schema }> };
      };
      const content = requestBody && Object.values(requestBody.content)[0];
      return { method: method.toUpperCase(), path, parameters, body: content?.schema };
    }),
  );
}

function encode(value: unknown): string {
  try {
    return encodeURIComponent(typeof value === 'string' ? value : JSON.stringify(value));
  } catch {
    // Half a character has no encoding: as a stranger would send it.
    return '%ED%A0%80';
  }
}
