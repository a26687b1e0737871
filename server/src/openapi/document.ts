import { ATTACHMENT_TYPES } from '@rouse/core/contract';
import { type Route, ROUTES } from '@rouse/core/people';
import type { Router } from 'express';
import { z } from 'zod';
import { ERRORS } from '../errors.ts';
import { type Asked, askedOf } from '../routes/asks.ts';

type Schema = Record<string, unknown>;

/** One route, as OpenAPI 3.1 says it. */
export interface Operation {
  operationId: string;
  summary: string;
  tags: [string];
  security: Record<string, []>[];
  'x-needs': Route['need'];
  parameters: { name: string; in: 'path' | 'query'; required: boolean; schema: Schema }[];
  requestBody?: { required: true; content: Record<string, { schema: Schema }> };
  responses: Record<string, unknown>;
}

export interface OpenApi {
  openapi: '3.1.0';
  info: { title: string; version: string; description: string };
  servers: { url: string }[];
  paths: Record<string, Record<string, Operation>>;
  components: Record<string, Schema>;
}

/** Parts of an address that are no id of ours, and what they are. */
const PARTS: Readonly<Record<string, Schema>> = {
  version: { type: 'integer', minimum: 1 },
  seq: { type: 'integer', minimum: 1 },
  attempt: { type: 'integer', minimum: 1 },
  ...Object.fromEntries(
    ['credential', 'label', 'lesson', 'pad', 'session', 'site', 'token', 'type', 'watch'].map((name) => [
      name,
      { type: 'string' },
    ]),
  ),
};

/** What is sent as it is, and not as JSON. */
const BYTES: Readonly<Record<string, readonly string[]>> = {
  'POST /exceedances/:run/:seq/attachments': ATTACHMENT_TYPES,
  'POST /aircraft/:aircraft/recordings': ['application/octet-stream'],
  'POST /operator/import': ['application/zip'],
};

/** What is answered, where it is not JSON. */
const ANSWERED: Readonly<Record<string, string>> = {
  'GET /runs/:run/trace': 'application/octet-stream',
  'GET /operator/export': 'application/zip',
};

const errorSchema: Schema = z.toJSONSchema(
  z.object({
    error: z.looseObject({
      code: z.enum(Object.keys(ERRORS) as (keyof typeof ERRORS)[]),
      message: z.string().describe('what is wrong, in a sentence'),
      remedy: z.string().describe('what to do about it'),
      path: z.string().optional().describe('the field that is meant'),
    }),
  }),
);

/**
 * The interface as a document of OpenAPI 3.1: the table of routes with what each needs, and the Zod schemas by which the
 * routes read what they are sent.
 * @param routers those that serve the routes @throws Error for a route that no router serves
 */
export function documentOf(routers: readonly Router[]): OpenApi {
  const asked = askedByRoute(routers);
  const paths: OpenApi['paths'] = {};
  for (const route of ROUTES) {
    const name = `${route.method} ${route.path}`;
    const its = asked.get(name);
    if (!its) throw new Error(`${name} is in the table of routes, and nothing serves it`);
    const place = route.path.replaceAll(/:(\w+)/g, '{$1}');
    (paths[place] ??= {})[route.method.toLowerCase()] = operationOf(route, its);
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Rouse',
      version: '1',
      description:
        'What a page asks of the server, and anybody else may ask who is signed in. Nothing here takes the place of the approved manual.',
    },
    servers: [{ url: '/api' }],
    paths,
    components: {
      schemas: { Error: errorSchema },
      securitySchemes: {
        session: {
          type: 'apiKey',
          in: 'cookie',
          name: '__Host-rouse-session',
          description: 'The cookie of a sign-in. Without TLS, on one machine, its name is rouse-PORT-session.',
        },
      },
    },
  };
}

/** What the handlers of each route read, by its method and path. */
function askedByRoute(routers: readonly Router[]): Map<string, Asked> {
  const found = new Map<string, Asked>();
  for (const { stack } of routers)
    for (const { route } of stack) {
      if (!route) continue;
      for (const { method, handle } of route.stack) {
        const name = `${method.toUpperCase()} ${route.path}`;
        found.set(name, { ...found.get(name), ...askedOf(handle) });
      }
    }
  return found;
}

function operationOf(route: Route, { body, query }: Asked): Operation {
  const { method, path, need, what } = route;
  const name = `${method} ${path}`;
  const inPath = [...path.matchAll(/:(\w+)/g)].map(([, part]) => ({
    name: part!,
    in: 'path' as const,
    required: true,
    schema: PARTS[part!] ?? { type: 'string', format: 'uuid' },
  }));
  const content = body
    ? { 'application/json': { schema: schemaOf(body) } }
    : Object.fromEntries((BYTES[name] ?? []).map((type) => [type, { schema: {} }]));
  return {
    operationId: `${method.toLowerCase()}${path.replaceAll(/\W+/g, '-')}`,
    summary: what,
    tags: [path.split('/')[1]!.split('.')[0]!],
    security: need === 'public' ? [] : [{ session: [] }],
    'x-needs': need,
    parameters: [...inPath, ...(query ? inQuery(schemaOf(query)) : [])],
    ...(Object.keys(content).length > 0 && { requestBody: { required: true, content } }),
    responses: {
      ...(name.includes('sign-on') && { '302': { description: 'the way on, as an address' } }),
      '2XX': { description: what, content: { [answeredAs(name)]: {} } },
      '4XX': refused('It is refused, in words, with the remedy'),
      '5XX': refused('It cannot be done now'),
    },
  };
}

const refused = (description: string): Schema => ({
  description,
  content: { 'application/json': { schema: { $ref: '#/components/schemas/Error' } } },
});

function answeredAs(name: string): string {
  if (name.endsWith('.pdf')) return 'application/pdf';
  if (name.endsWith('.csv')) return 'text/csv';
  if (name.endsWith('.html')) return 'text/html';
  return ANSWERED[name] ?? 'application/json';
}

/** A Zod schema as it takes what is sent. Checks that no JSON schema can say are left to the answer. */
function schemaOf(schema: z.ZodType): Schema {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any', reused: 'inline' });
  return rest;
}

function inQuery(schema: Schema): Operation['parameters'] {
  const required = new Set((schema['required'] as string[] | undefined) ?? []);
  return Object.entries((schema['properties'] as Record<string, Schema> | undefined) ?? {}).map(([name, its]) => ({
    name,
    in: 'query',
    required: required.has(name),
    schema: its,
  }));
}
