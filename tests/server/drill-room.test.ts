import type { DrillRoom, ToDesk, ToLearner } from '@rouse/core/contract';
import { afterAll, afterEach, beforeAll, expect, test } from 'vitest';
import { WebSocket } from 'ws';
import type { As } from '../caller.ts';
import { Caller, Rouse, waitUntil } from '../rouse.ts';

let rouse: Rouse;
let pilot: Caller;
const sockets: WebSocket[] = [];
beforeAll(async () => {
  rouse = await Rouse.start();
  pilot = new Caller(rouse.base);
});
afterEach(() => {
  for (const socket of sockets.splice(0)) socket.close();
});
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

/** Somebody at the door of a room, and what is told there. */
async function enter<Told>(code: string, as: As, origin = rouse.base): Promise<{ socket: WebSocket; told: Told[] }> {
  const socket = new WebSocket(`${rouse.base.replace('http', 'ws')}/live/drill?code=${code}`, {
    headers: { cookie: await pilot.as(as).cookie(), origin },
  });
  sockets.push(socket);
  const told: Told[] = [];
  socket.on('message', (data) => told.push(JSON.parse((data as Buffer).toString()) as Told));
  await new Promise((resolve, reject) => socket.on('open', resolve).on('error', reject));
  return { socket, told };
}

const openRoom = async (): Promise<string> =>
  ((await pilot.post('/drill/rooms', {})).body as unknown as DrillRoom).code;
const say = (socket: WebSocket, message: object): void => socket.send(JSON.stringify(message));
const heard = <T extends { kind: string }>(told: T[], kind: string): Promise<T> =>
  waitUntil(() => told.find((t) => t.kind === kind) ?? null);

test('what a learner tells reaches the desk, what the desk does reaches the learner with a name, and nothing else does', async () => {
  const code = await openRoom();
  expect(code).toMatch(/^[A-HJ-NP-Z2-9]{6}$/);
  const learner = await enter<ToLearner>(code, 'pilot');
  const desk = await enter<ToDesk>(code, 'instructor');
  expect(await heard(desk.told, 'learner')).toMatchObject({ here: true });
  expect(await heard(learner.told, 'joined')).toMatchObject({ kind: 'joined' });
  say(learner.socket, { kind: 'over', view: null, drill: null });
  await heard(desk.told, 'over');

  say(desk.socket, { kind: 'launch-missiles' });
  desk.socket.send('no message at all');
  say(desk.socket, { kind: 'note', text: '' });
  say(desk.socket, { kind: 'fault', condition: 'hot-start' });
  const fault = await heard(learner.told, 'fault');
  expect(fault).toMatchObject({ condition: 'hot-start', by: expect.any(String) as string });
  expect(learner.told.map((t) => t.kind)).toEqual(['joined', 'fault']);
});

test('the room waits for a learner whose line breaks, and asks for everything again', async () => {
  const code = await openRoom();
  const first = await enter<ToLearner>(code, 'pilot');
  const desk = await enter<ToDesk>(code, 'instructor');
  first.socket.terminate();
  await waitUntil(() => (desk.told.some((t) => t.kind === 'learner' && !t.here) ? true : null));
  const again = await enter<ToLearner>(code, 'pilot');
  await heard(again.told, 'joined');
  await expect.poll(() => desk.told.at(-1), { timeout: 30_000 }).toMatchObject({ kind: 'learner', here: true });
});

test.each<[string, As | 'elsewhere']>([
  ['somebody who does not lead', 'engineer'],
  ['a page of another place', 'elsewhere'],
])('%s is not let in', async (_, as) => {
  const code = await openRoom();
  const entering = as === 'elsewhere' ? enter(code, 'instructor', 'http://elsewhere.example') : enter(code, as);
  await expect(entering).rejects.toThrow('404');
  await expect(enter('NOSUCH', 'instructor')).rejects.toThrow('404');
});

// last, as the instructor stays signed out
test('whoever is signed out sees and hears nothing more of the room', async () => {
  const { socket } = await enter<ToDesk>(await openRoom(), 'instructor');
  const closed = new Promise<number>((resolve) => socket.on('close', resolve));
  await pilot.as('instructor').delete('/session');
  expect(await closed).toBe(4401);
});
