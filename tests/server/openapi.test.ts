import { ROUTES } from '@rouse/core/people';
import { Validator } from '@seriousme/openapi-schema-validator';
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { OpenApi, Operation } from '../../server/src/openapi/document.ts';
import { DEMO } from '../../server/src/demo/identity.ts';
import { type As } from '../caller.ts';
import { Caller, goodBrief, Rouse } from '../rouse.ts';

let rouse: Rouse;
let call: Caller;
let openapi: OpenApi;
const ajv = new Ajv2020({ strict: false, allErrors: false });
(addFormats as unknown as (on: Ajv2020) => void)(ajv);
const known: Record<string, string> = {};

beforeAll(async () => {
  rouse = await Rouse.start({ demoStarts: 3 });
  call = new Caller(rouse.base);
  openapi = (await (await fetch(`${rouse.base}/api/openapi.json`)).json()) as OpenApi;
  const { runs } = await call.get<{ runs: { run: string }[] }>('/log/runs');
  Object.assign(known, { aircraft: DEMO.aircraftId, run: runs[0]!.run, type: 'S7', version: '1', seq: '1', attempt: '1', watch: 'engine-1-start', operator: DEMO.operatorId, site: 'Varra', pad: 'pad 1, Varra', label: 'Pilot with helmet' }); // oxfmt-ignore
});
afterAll(async () => {
  await call.settle();
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

/** The address of a route with things of the demo in it; an id that is nobody's where there is none. */
const addressOf = (place: string): string =>
  place.replaceAll(/\{(\w+)\}/g, (_, name: string) =>
    encodeURIComponent(known[name] ?? '0190a000-0000-7000-8000-000000000000'),
  );
const operations = (): [method: string, place: string, operation: Operation][] =>
  Object.entries(openapi.paths).flatMap(([place, methods]) =>
    Object.entries(methods).map(([method, operation]) => [method.toUpperCase(), place, operation] as [string, string, Operation]),
  ); // oxfmt-ignore
/** Somebody who may ask this. */
const askedBy = ({ 'x-needs': need }: Operation): As =>
  need === 'administer'
    ? 'administrator'
    : need === 'release'
      ? 'engineer'
      : need === 'oversee'
        ? 'instructor'
        : 'pilot';

/** What is wrong with an answer, against what the document says of it. */
function wrongIn(operation: Operation, status: number, type: string, text: string): string[] {
  const said = operation.responses as Record<string, { content?: Record<string, { schema?: object }> }>;
  const its = said[String(status)] ?? said[`${String(status)[0]}XX`];
  if (!its) return [`${status} is not in the document`];
  if (status >= 300 && status < 400) return [];
  const content = its.content?.[type];
  if (!content) return [`${status} as ${type} is not in the document`];
  if (status < 400) return type === 'application/json' && !isJson(text) ? ['no JSON'] : [];
  const right = errorShape()(JSON.parse(text));
  return right ? [] : [`an error that is not as the document says: ${text}`];
}

const isJson = (text: string): boolean => {
  JSON.parse(text);
  return true;
};
let error: ValidateFunction | null = null;
const errorShape = (): ValidateFunction => (error ??= ajv.compile(openapi.components['schemas']!['Error'] as object));

/** What keeps a body from being what the document asks for. */
function fitted(method: string, place: string, body: unknown): object[] {
  const fits = ajv.compile(
    openapi.paths[place]![method.toLowerCase()]!.requestBody!.content['application/json']!.schema,
  );
  return fits(body) ? [] : fits.errors!;
}

async function answer(method: string, place: string, operation: Operation, body?: unknown) {
  const response = await call.as(askedBy(operation)).fetch(addressOf(place), {
    method,
    redirect: 'manual',
    ...(body !== undefined && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  });
  const type = (response.headers.get('content-type') ?? '').split(';')[0]!;
  return { status: response.status, type, text: await response.text() };
}

test('is a document of OpenAPI 3.1, and has every route of the table and no other', async () => {
  const { valid, errors } = await new Validator().validate(openapi as unknown as Record<string, unknown>);
  expect(errors ?? []).toEqual([]);
  expect(valid).toBe(true);
  const named = operations().map(([method, place, { summary, 'x-needs': need }]) => `${method} ${place.replaceAll(/\{(\w+)\}/g, ':$1')} ${need} ${summary}`); // oxfmt-ignore
  expect(named.toSorted()).toEqual(ROUTES.map((r) => `${r.method} ${r.path} ${r.need} ${r.what}`).toSorted());
  expect(new Set(operations().map(([, , { operationId }]) => operationId)).size).toBe(ROUTES.length);
  expect(ROUTES.filter((r) => r.what === '')).toEqual([]);
});

describe('what the server answers is what the document says', () => {
  test('to everything that can be read', async () => {
    const found: string[] = [];
    let good = 0;
    for (const [method, place, operation] of operations().filter(([m]) => m === 'GET')) {
      const { status, type, text } = await answer(method, place, operation);
      if (status < 300) good++;
      found.push(...wrongIn(operation, status, type, text).map((w) => `${method} ${place}: ${w}`));
    }
    expect(found).toEqual([]);
    expect(good).toBeGreaterThan(40);
  });

  test('to everything that takes JSON, when what is sent is not what the document asks for', async () => {
    const found: string[] = [];
    const takers = operations().filter(([, , o]) => o.requestBody?.content['application/json']);
    expect(takers.length).toBeGreaterThan(50);
    for (const [method, place, operation] of takers) {
      const fits = ajv.compile(operation.requestBody!.content['application/json']!.schema);
      const bad = [{}, [], { unasked: true }, 'words', null].filter((body) => !fits(body));
      expect(bad.length, `${method} ${place} takes anything`).toBeGreaterThan(2);
      for (const body of bad) {
        const { status, type, text } = await answer(method, place, operation, body);
        if (status < 400) found.push(`${method} ${place}: ${JSON.stringify(body)} is taken`);
        if (status >= 500) found.push(`${method} ${place}: ${JSON.stringify(body)} is answered ${status}`);
        found.push(...wrongIn(operation, status, type, text).map((w) => `${method} ${place}: ${w}`));
      }
    }
    expect(found).toEqual([]);
  });

  test('to what the document asks for: a run with its brief, an entry, a defect, a pad', async () => {
    const opening = { aircraft: DEMO.aircraftId, brief: goodBrief(), byHand: true };
    const run = await call.post('/runs', opening);
    known['run'] = run.body.run!;
    const good: [string, string, unknown][] = [
      ['POST', '/aircraft/{aircraft}/defects', { equipment: 'extinguisher', words: 'Pin is missing' }],
      ['PUT', '/pads/{pad}', { site: 'Varra', x_m: 40, y_m: 0 }],
      ['POST', '/acknowledgements', { version: 1 }],
      ['POST', '/runs/{run}/entries', { id: uuidv7(), seq: 3, payload: { kind: 'mark', words: 'as asked' } }],
    ];
    expect([run.status, fitted('POST', '/runs', opening)]).toEqual([201, []]);
    for (const [method, place, body] of good) {
      expect(fitted(method, place, body), `${method} ${place}`).toEqual([]);
      const operation = openapi.paths[place]![method.toLowerCase()]!;
      const { status, type, text } = await answer(method, place, operation, body);
      expect(status, `${method} ${place} ${text}`).toBeLessThan(300);
      expect(wrongIn(operation, status, type, text)).toEqual([]);
    }
  });
});

test('is there to be read as a page, with every route on it', async () => {
  const response = await fetch(`${rouse.base}/api/openapi.html`);
  expect(response.headers.get('content-security-policy')).toContain("default-src 'none'");
  const page = await response.text();
  for (const [method, place, { operationId }] of operations())
    expect(page).toContain(`<section id="${operationId}"><h3>${method} /api${place}</h3>`);
});
