import {
  COUNT_LIMITS,
  DEFAULT_LIMITS,
  LIMIT_NAMES,
  endpoints,
  openApiDocument,
  parseLimits,
  type Endpoint,
} from '@pragmatica/contract';
import { expect } from 'chai';

interface Schema {
  readonly $ref?: string;
  readonly type?: string | readonly string[];
  readonly format?: string;
  readonly enum?: readonly unknown[];
  readonly const?: unknown;
  readonly maxLength?: number;
  readonly maxItems?: number;
  readonly maxProperties?: number;
  readonly maximum?: number;
  readonly exclusiveMaximum?: number;
  readonly items?: Schema;
  readonly prefixItems?: readonly Schema[];
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly propertyNames?: Schema;
  readonly additionalProperties?: Schema | boolean;
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly allOf?: readonly Schema[];
}

interface Operation {
  readonly operationId: string;
  readonly parameters?: readonly { readonly in: string; readonly name: string; readonly schema: Schema }[];
  readonly requestBody?: { readonly content: Readonly<Record<string, { readonly schema: Schema }>> };
}

interface Document {
  readonly paths: Readonly<Record<string, Readonly<Record<string, Operation>>>>;
  readonly components: { readonly schemas: Readonly<Record<string, Schema>> };
}

const document = openApiDocument('1.0.0') as unknown as Document;

/** Formats that have a length of their own. */
const SHORT_FORMATS = ['uuid', 'date', 'date-time'];

/** Places of an input at which something may be as long as somebody likes. */
function unbounded(given: Schema, path: string, seen: ReadonlySet<string>): string[] {
  if (given.$ref !== undefined && seen.has(given.$ref)) return [];
  const next = given.$ref === undefined ? seen : new Set([...seen, given.$ref]);
  const schema =
    given.$ref === undefined ? given : document.components.schemas[given.$ref.split('/').at(-1)!]!;
  const inner = (one: Schema, name: string): string[] => unbounded(one, `${path}${name}`, next);
  const types = [schema.type ?? []].flat();
  const { properties = {}, additionalProperties } = schema;
  return [
    ...[...(schema.anyOf ?? []), ...(schema.oneOf ?? []), ...(schema.allOf ?? [])].flatMap((one) =>
      inner(one, ''),
    ),
    ...(types.includes('string') &&
    schema.maxLength === undefined &&
    schema.enum === undefined &&
    schema.const === undefined &&
    !SHORT_FORMATS.includes(schema.format ?? '')
      ? [`${path}: text`]
      : []),
    ...(types.includes('array') && schema.maxItems === undefined && !schema.prefixItems
      ? [`${path}: list`]
      : []),
    ...((types.includes('integer') || types.includes('number')) &&
    (schema.maximum ?? schema.exclusiveMaximum) === undefined
      ? [`${path}: number`]
      : []),
    ...(schema.items ? inner(schema.items, '/*') : []),
    ...(schema.prefixItems ?? []).flatMap((one) => inner(one, '/*')),
    ...Object.entries(properties).flatMap(([name, one]) => inner(one, `/${name}`)),
    ...(typeof additionalProperties === 'object'
      ? [
          ...(schema.maxProperties === undefined && schema.propertyNames?.enum === undefined
            ? [`${path}: names`]
            : []),
          ...inner(additionalProperties, '/{}'),
        ]
      : []),
  ];
}

describe('limits', () => {
  const operations = Object.values(document.paths).flatMap((path) => Object.values(path));

  it('bound every input of every call: no text, list or number is as large as somebody likes', () => {
    const found = operations.flatMap(({ operationId, parameters = [], requestBody }) => [
      // Header lines are bounded by the server as a whole.
      ...parameters
        .filter((parameter) => parameter.in !== 'header')
        .flatMap(({ name, schema }) => unbounded(schema, `${operationId} ${name}`, new Set())),
      ...Object.values(requestBody?.content ?? {}).flatMap(({ schema }) =>
        unbounded(schema, `${operationId} body`, new Set()),
      ),
    ]);
    expect(found).to.deep.equal([]);
  });

  it('of texts are kept: one character too many is refused where it stands', () => {
    let tried = 0;
    for (const [name, { body }] of Object.entries<Endpoint>(endpoints)) {
      const [content] = Object.values(
        operations.find(({ operationId }) => operationId === name)?.requestBody?.content ?? {},
      );
      if (!body || !content) continue;
      const { $ref } = content.schema;
      const schema =
        $ref === undefined ? content.schema : document.components.schemas[$ref.split('/').at(-1)!]!;
      for (const [field, { maxLength }] of Object.entries(schema.properties ?? {})) {
        if (maxLength === undefined) continue;
        const issues = body.safeParse({ [field]: 'x'.repeat(maxLength + 1) }).error?.issues ?? [];
        const isTooBig = issues.some(({ code, path }) => code === 'too_big' && path.join() === field);
        expect(isTooBig, `${name} ${field}`).to.equal(true);
        tried++;
      }
    }
    expect(tried).to.be.above(60);
  });

  it('of what there may be are each held by the calls that make one more', () => {
    const made = new Set(Object.values<Endpoint>(endpoints).flatMap(({ makes }) => (makes ? [makes] : [])));
    expect([...made].sort()).to.deep.equal(Object.keys(COUNT_LIMITS).sort());
  });

  it('are written as a setting, and read again', () => {
    expect(parseLimits('')).to.deep.equal(DEFAULT_LIMITS);
    expect(parseLimits(' tokens = 3,calls-of-member=60, ')).to.deep.equal({
      ...DEFAULT_LIMITS,
      tokens: 3,
      'calls-of-member': 60,
    });
    for (const wrong of ['cats=3', 'tokens', 'tokens=0', 'tokens=-1', 'tokens=1e3', 'tokens=1=2x', '=4'])
      expect(parseLimits(wrong), wrong).to.have.property('problem').that.contains(`“${wrong}” is no limit.`);
    expect(LIMIT_NAMES).to.include.members(Object.keys(COUNT_LIMITS));
  });
});
