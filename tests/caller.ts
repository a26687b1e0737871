import type { ApiError, BriefContextMessage, RunDetail, Today } from '@rouse/core/contract';
import { type BriefInput, briefOf, emptyBrief } from '@rouse/core/brief';
import {
  type Entry,
  type Payload,
  presentItem,
  reduceRun,
  type RunState,
  stagesDone,
  rightAnswer,
} from '@rouse/core/procedure';
import { type Item, stagesOf, type TypeFile } from '@rouse/core/aircraft';
import { ACKNOWLEDGEMENT } from '@rouse/core/people';
import { v7 as uuidv7 } from 'uuid';
import { DEMO, FLEET, PEOPLE } from '../server/src/demo/identity.ts';
import { types } from './skerry.ts';

/** A calm mild day, observed now, and the usual load of the type that this aircraft is. */
export function goodBrief(aircraft: string = DEMO.aircraftId): BriefInput {
  const { typeId } = FLEET.find((a) => a.aircraftId === aircraft) ?? { typeId: 'S7' };
  const type = types.filter((t) => t.id === typeId).toSorted((a, b) => b.version - a.version)[0]!;
  const { max_L } = type.loading.fuel;
  return {
    ...emptyBrief(type),
    wind: { direction_deg: null, from_deg: null, to_deg: null, speed_kt: 0, gust_kt: null },
    oat_C: 12,
    dew_C: 6,
    qnh_hPa: 1013,
    observedAt: new Date().toISOString(),
    heading_deg: 30,
    fuel_kg: Math.round(0.6 * max_L * type.loading.fuel_density_kgL),
    flight_min: 30,
    // a rule of the operator may go by the date: a test may not
    ...(type.engines.length > 1 && { ways: { 'engine-first': { to: 'always-2', reason: 'the same on every day' } } }),
  };
}

interface Answer {
  status: number;
  body: Partial<Entry> & Partial<ApiError> & { run?: string };
}

/** The people of the demo, by what they are for. */
export const PERSON = { pilot: PEOPLE[0], instructor: PEOPLE[1], engineer: PEOPLE[2], administrator: PEOPLE[3] };
export type As = keyof typeof PERSON;

/** Talks to a running server as the page of one person of the demo would, signed in when it first asks. */
export class Caller {
  readonly base: string;
  private readonly who: As;
  private readonly others = new Map<As, Caller>();
  private signedIn: Promise<string> | null = null;

  constructor(base: string, who: As = 'pilot') {
    this.base = base;
    this.who = who;
  }

  /** The same server, asked by somebody else. */
  as(who: As): Caller {
    if (who === this.who) return this;
    const known = this.others.get(who) ?? new Caller(this.base, who);
    this.others.set(who, known);
    return known;
  }

  /** What the browser of this person sends along. */
  cookie(): Promise<string> {
    return (this.signedIn ??= signIn(this.base, PERSON[this.who].personId).catch((error: unknown) => {
      this.signedIn = null;
      throw error;
    }));
  }

  /** A request as it is, whatever its answer. */
  async fetch(place: string, init: RequestInit = {}): Promise<Response> {
    const headers = new Headers(init.headers);
    headers.set('cookie', await this.cookie());
    return fetch(`${this.base}/api${place}`, { ...init, headers });
  }

  async get<T>(place: string): Promise<T> {
    const response = await this.fetch(place);
    if (!response.ok) throw new Error(`${place}: ${response.status} ${await response.text()}`);
    return response.json() as Promise<T>;
  }

  async post(place: string, body: unknown): Promise<Answer> {
    return this.send('POST', place, body);
  }

  async put(place: string, body: unknown): Promise<Answer> {
    return this.send('PUT', place, body);
  }

  async delete(place: string, body?: unknown): Promise<Answer> {
    return this.send('DELETE', place, body);
  }

  private async send(method: 'POST' | 'PUT' | 'DELETE', place: string, body: unknown): Promise<Answer> {
    const response = await this.fetch(place, {
      method,
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    return { status: response.status, body: (await response.json()) as never };
  }

  /** Opens a run of the wired tail, or of another one, with a brief that nothing holds, as the page does. */
  async open(
    aircraft: string = DEMO.aircraftId,
    brief: BriefInput = goodBrief(aircraft),
    byHand = false,
  ): Promise<string> {
    await this.prepare(aircraft, brief);
    const { status, body } = await this.post('/runs', { aircraft, brief, byHand });
    if (status !== 201) throw new Error(JSON.stringify(body));
    return body.run!;
  }

  /** One of the shipped types, or what the server has of another one. */
  private async typeOf({ id, version }: { id: string; version: number }): Promise<TypeFile> {
    const shipped = types.find((t) => t.id === id && t.version === version);
    return shipped ?? (await this.get<TypeFile>(`/types/${id}/${version}`));
  }

  /** Puts the stand-in, where there is one, into its conditions with the load of the brief. */
  private async prepare(aircraft: string, brief: BriefInput): Promise<void> {
    const message = await this.get<BriefContextMessage>(`/aircraft/${aircraft}/brief`);
    const type = await this.typeOf(message.type);
    const { mass } = briefOf(brief, { ...message, type }).record.expected;
    await this.post('/stand-in/prepare', { aircraft, mass_kg: mass });
  }

  async write(
    run: string,
    payload: Payload,
    seq: number,
    id = uuidv7(),
  ): Promise<{ status: number; body: Partial<Entry> & Partial<ApiError> & { entries?: Entry[] } }> {
    const { status, body } = await this.post(`/runs/${run}/entries`, { id, seq, payload });
    const { entry, ...rest } = body as Answer['body'] & { entry?: Entry };
    return { status, body: { ...(entry as object), ...rest } as Answer['body'] };
  }

  /** Writes behind whatever the watch has written in between. */
  async writeNext(
    run: string,
    payload: Payload,
    id = uuidv7(),
  ): Promise<{ status: number; body: Partial<Entry> & Partial<ApiError> }> {
    let seq = (await this.detail(run)).entries.length + 1;
    for (;;) {
      const answer = await this.write(run, payload, seq, id);
      if (answer.body.error?.code !== 'out-of-order') return answer;
      seq = answer.body.error.expected!;
    }
  }

  /** Chooses the conditions of a stand-in. */
  async choose(preset: string, aircraft: string = DEMO.aircraftId): ReturnType<Caller['post']> {
    return this.post('/stand-in/conditions', { aircraft, preset });
  }

  async detail(run: string): Promise<RunDetail> {
    return this.get(`/runs/${run}`);
  }

  /** Works the list from its present item up to `until`, as a quick pilot would. @throws Error when a check is not good */
  async work(run: string, until: string): Promise<void> {
    const { type: flown, source, entries: known } = await this.detail(run);
    const type = await this.typeOf(flown);
    const wired = source !== 'by-hand';
    let entries: readonly Entry[] = known;
    for (;;) {
      const state = reduceRun(entries);
      const item = presentItem(type, state);
      if (!item || item.id === until) return;
      const found = state.measured[item.id];
      if (found?.verdict === 'fault' || found?.verdict === 'unknown') throw new Error(`${item.id}: ${found.words}`);
      if (wired && item.kind === 'measure' && item.trace) {
        entries = await this.flyStage(run, item, stagesDone(state, item), state);
        continue;
      }
      if (wired && item.standIn) await this.post('/stand-in/move', { run, item: item.id });
      const moved = item.kind === 'set' && item.standIn !== undefined && item.expect !== undefined;
      entries =
        wired && (moved || item.kind === 'wait' || item.kind === 'watch')
          ? await this.journalWith(run, (e) => e.kind === 'item-done' && e.item === item.id)
          : await this.answer(run, entries, rightAnswer(item, { type, state }));
    }
  }

  /** Writes an answer behind the entries that are known, as soon as the readings are so. @returns the journal with it */
  private answer(run: string, entries: readonly Entry[], payload: Payload): Promise<readonly Entry[]> {
    return waitUntil(async () => {
      const first = await this.write(run, payload, entries.length + 1);
      if (first.status === 201) return [...entries, ...first.body.entries!];
      const late = first.body.error?.code === 'out-of-order';
      const { status, body } = late ? await this.writeNext(run, payload) : first;
      if (status === 201) return (await this.detail(run)).entries;
      if (body.error?.code === 'not-so') return null;
      throw new Error(JSON.stringify({ payload, body }));
    });
  }

  /** Does what the present stage of a check says, and waits until the check goes on */
  private async flyStage(run: string, check: Item, at: number, { lastSeq }: RunState): Promise<readonly Entry[]> {
    const stage = stagesOf(check)[at];
    const item = check.id;
    if (stage?.standIn) await this.post('/stand-in/move', { run, item });
    if (stage && !stage.expect) await this.writeNext(run, { kind: 'stage-done', item, stage: at, value: null, words: '', last: false }); // oxfmt-ignore
    return this.journalWith(
      run,
      (e) =>
        e.seq > lastSeq &&
        'item' in e &&
        e.item === item &&
        (e.kind === 'item-done' ||
          e.kind === 'measured' ||
          (e.kind === 'stage-done' && at + 1 < stagesOf(check).length)),
    );
  }

  /** Closes open runs and releases open exceedances, so that the next one can begin. */
  async settle(): Promise<void> {
    const { aircraft } = await this.get<Today>('/today');
    for (const { aircraft: id, openRun, openExceedances } of aircraft) {
      if (openRun) await this.writeNext(openRun, { kind: 'closed', outcome: 'given-up' });
      if (openRun === null && openExceedances === 0) continue;
      const message = await this.get<BriefContextMessage>(`/aircraft/${id}/brief`);
      for (const { run, seq } of message.openExceedances)
        await this.as('engineer').post(`/exceedances/${run}/${seq}/release`, { found: 'Looked at, no finding' });
    }
  }

  async waitFor(run: string, found: (entry: Entry) => boolean, within_ms = 60_000): Promise<Entry> {
    return (await this.journalWith(run, found, within_ms)).find(found)!;
  }

  /** The journal as soon as it has such an entry. */
  private journalWith(run: string, found: (entry: Entry) => boolean, within_ms = 60_000): Promise<readonly Entry[]> {
    return waitUntil(async () => {
      const { entries } = await this.detail(run);
      return entries.some(found) ? entries : null;
    }, within_ms);
  }
}

/** Signs a person of the demo in, who has acknowledged what everybody does. @returns the cookie */
export async function signIn(base: string, person: string): Promise<string> {
  const json = { 'content-type': 'application/json' };
  const response = await fetch(`${base}/api/session/demo`, {
    method: 'POST',
    headers: json,
    body: JSON.stringify({ person }),
  });
  if (response.status !== 201) throw new Error(`sign-in: ${response.status} ${await response.text()}`);
  const cookie = response.headers
    .getSetCookie()
    .map((c) => c.split(';')[0]!)
    .join('; ');
  await fetch(`${base}/api/acknowledgements`, {
    method: 'POST',
    headers: { ...json, cookie },
    body: JSON.stringify({ version: ACKNOWLEDGEMENT.version }),
  });
  return cookie;
}

/** Asks again until there is an answer. @throws Error when the time is over */
export async function waitUntil<T>(ask: () => Promise<T | null> | T | null, within_ms = 30_000): Promise<T> {
  const end = Date.now() + within_ms;
  for (let wait_ms = 15; ; wait_ms = Math.min(120, 2 * wait_ms)) {
    const answer = await ask();
    if (answer !== null && answer !== false) return answer;
    if (Date.now() > end) throw new Error(`nothing came within ${within_ms} ms`);
    await new Promise((resolve) => setTimeout(resolve, wait_ms));
  }
}
