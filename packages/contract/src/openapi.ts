import { z } from 'zod';
import { API_BASE } from './client.js';
import type { Endpoint } from './endpoint.js';
import { endpoints } from './endpoints.js';
import { problem } from './schemas/index.js';

type Json = Record<string, unknown>;

/** The API as an OpenAPI 3.1 document, made from the schemas that also validate. */
export function openApiDocument(version: string): Json {
  const paths: Record<string, Json> = {};
  for (const [name, endpoint] of Object.entries(endpoints) as [string, Endpoint][]) {
    paths[endpoint.path] = {
      ...paths[endpoint.path],
      [endpoint.method.toLowerCase()]: operation(name, endpoint),
    };
  }
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
      schemas: { Problem: jsonSchema(problem, 'output') },
    },
  };
}

function operation(name: string, endpoint: Endpoint): Json {
  const success = endpoint.status ?? (endpoint.response || endpoint.stream ? 200 : 204);
  const output = endpoint.stream ?? endpoint.response;
  const mediaType = endpoint.stream ? 'application/x-ndjson' : 'application/json';
  return {
    operationId: name,
    summary: endpoint.summary,
    ...(endpoint.isPublic ? { security: [] } : {}),
    parameters: [
      ...fields(endpoint.params, 'path'),
      ...fields(endpoint.query, 'query'),
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
                schema: jsonSchema(endpoint.body, 'input'),
              },
            },
          },
        }
      : {}),
    responses: {
      [success]: {
        description: 'Done.',
        ...(output ? { content: { [mediaType]: { schema: jsonSchema(output, 'output') } } } : {}),
      },
      default: {
        description: 'What went wrong (RFC 9457).',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  };
}

function fields(schema: z.ZodObject | undefined, place: 'path' | 'query'): Json[] {
  if (!schema) return [];
  return Object.entries(schema.shape).map(([name, field]) => ({
    name,
    in: place,
    required: place === 'path' || !(field as z.ZodType).safeParse(undefined).success,
    schema: jsonSchema(field as z.ZodType, 'input'),
  }));
}

function jsonSchema(schema: z.ZodType, io: 'input' | 'output'): Json {
  const made = z.toJSONSchema(schema, { io, unrepresentable: 'any', reused: 'inline' }) as Json;
  return Object.fromEntries(Object.entries(made).filter(([name]) => name !== '$schema' && name !== 'id'));
}
