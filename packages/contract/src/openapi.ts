import { needNames } from '@pragmatica/core';
import { z } from 'zod';
import { API_BASE } from './client.js';
import type { Endpoint } from './endpoint.js';
import { endpoints } from './endpoints/index.js';
import { problem } from './schemas/index.js';

type Json = Record<string, unknown>;

/** Bytes as they come (OpenAPI 3.1, 4.8.14.2). */
const BYTES = { schema: {} };

/** The API as an OpenAPI 3.1 document, made from the schemas that also validate. */
export function openApiDocument(version: string): Json {
  const paths: Record<string, Json> = {};
  const components = new Components();
  for (const [name, endpoint] of Object.entries(endpoints) as [string, Endpoint][]) {
    paths[endpoint.path] = {
      ...paths[endpoint.path],
      [endpoint.method.toLowerCase()]: operation(name, endpoint, components),
    };
  }
  components.add('Problem', problem);
  return {
    openapi: '3.1.0',
    info: { title: 'Pragmatica', version, description: 'Manage the script snippets of websites.' },
    servers: [{ url: API_BASE }],
    security: [{ token: [] }, { session: [] }],
    paths,
    components: {
      securitySchemes: {
        token: { type: 'http', scheme: 'bearer' },
        session: { type: 'apiKey', in: 'cookie', name: 'pragmatica_session' },
      },
      schemas: components.schemas,
    },
  };
}

function operation(name: string, endpoint: Endpoint, components: Components): Json {
  const success = endpoint.status ?? (endpoint.response || endpoint.stream || endpoint.download ? 200 : 204);
  const output = endpoint.stream ?? endpoint.response;
  const mediaTypes = endpoint.stream ? ['application/x-ndjson', 'text/event-stream'] : ['application/json'];
  return {
    operationId: name,
    summary: endpoint.summary,
    ...(endpoint.needsConfirmation ? { 'x-needs-confirmation': true } : {}),
    security: security(endpoint),
    parameters: [
      ...fields(endpoint.params, 'path', components),
      ...fields(endpoint.query, 'query', components),
      ...(endpoint.needsIfMatch
        ? [
            {
              name: 'If-Match',
              in: 'header',
              required: true,
              schema: { type: 'string' },
              description: 'The ETag you last saw.',
            },
          ]
        : []),
    ],
    ...(endpoint.body
      ? {
          requestBody: {
            required: true,
            content: {
              [endpoint.method === 'PATCH' ? 'application/merge-patch+json' : 'application/json']: {
                schema: components.schema(endpoint.body, 'input'),
              },
            },
          },
        }
      : {}),
    ...(endpoint.upload
      ? {
          requestBody: {
            required: true,
            content: Object.fromEntries(endpoint.upload.map((type) => [type, BYTES])),
          },
        }
      : {}),
    responses: {
      [success]: {
        description: 'Done.',
        ...(endpoint.download ? { content: { [endpoint.download]: BYTES } } : {}),
        ...(output
          ? {
              content: Object.fromEntries(
                mediaTypes.map((type) => [type, { schema: components.schema(output, 'output') }]),
              ),
            }
          : {}),
      },
      default: {
        description: 'What went wrong (RFC 9457).',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  };
}

/** Who may: a signed-in member with these rights, `site:edit` for the right to edit the site in the address. */
function security({ needs }: Endpoint): Json[] {
  if (needs === 'nothing') return [];
  const names = needNames(needs);
  return [{ token: names }, { session: names }];
}

function fields(schema: z.ZodObject | undefined, place: 'path' | 'query', components: Components): Json[] {
  if (!schema) return [];
  return Object.entries(schema.shape).map(([name, field]) => ({
    name,
    in: place,
    required: place === 'path' || !(field as z.ZodType).safeParse(undefined).success,
    schema: components.schema(field as z.ZodType, 'input'),
  }));
}

/** What several operations share, by name. What is read and what is written of a thing may differ: then it has two. */
class Components {
  readonly schemas: Record<string, Json> = {};

  add(name: string, schema: z.ZodType): void {
    this.schemas[name] = this.schema(schema, 'output');
  }

  /** A schema whose references lead to the components. */
  schema(schema: z.ZodType, io: 'input' | 'output'): Json {
    const made = z.toJSONSchema(schema, { io, unrepresentable: 'any', reused: 'inline' }) as Json;
    const {
      $defs = {},
      $schema: _,
      id: __,
      ...root
    } = made as Json & { readonly $defs?: Record<string, Json> };
    const names = new Map(Object.keys($defs).map((name) => [name, name]));
    for (const [name, { id: _id, ...definition }] of Object.entries($defs)) {
      const known = this.schemas[name];
      if (known && JSON.stringify(known) !== JSON.stringify(relinked(definition, names)))
        names.set(name, `${name}${io === 'input' ? 'Input' : 'Output'}`);
    }
    for (const [name, { id: _id, ...definition }] of Object.entries($defs))
      this.schemas[names.get(name)!] ??= relinked(definition, names) as Json;
    return relinked(root, names) as Json;
  }
}

const DEFINITION = '#/$defs/';

/** The same with references to definitions as references to components. */
function relinked(value: unknown, names: ReadonlyMap<string, string>): unknown {
  if (Array.isArray(value)) return value.map((item) => relinked(item, names));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([name, inner]) => [
      name,
      name === '$ref' && typeof inner === 'string' && inner.startsWith(DEFINITION)
        ? `#/components/schemas/${names.get(inner.slice(DEFINITION.length))!}`
        : relinked(inner, names),
    ]),
  );
}
