import { once } from 'node:events';
import net, { type AddressInfo } from 'node:net';
import readline from 'node:readline';
import type { StandInAnswer } from '@rouse/core/contract';
import { DeviceLineReader } from '@rouse/core/format';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { openControlPort } from '../../standin/src/control-port.ts';
import { Unit } from '../../standin/src/unit.ts';
import { skerry, startStandIn, waitUntil } from '../rouse.ts';

/** Listens as a server would and keeps what it hears. */
async function listen(port = 0): Promise<{ port: number; lines: string[]; close(): Promise<void> }> {
  const lines: string[] = [];
  const sockets = new Set<net.Socket>();
  const server = net.createServer((socket) => {
    sockets.add(socket);
    socket.on('error', () => undefined);
    readline
      .createInterface({ input: socket })
      .on('line', (l) => lines.push(l))
      .on('error', () => undefined);
  });
  server.listen(port, '127.0.0.1');
  await once(server, 'listening');
  return {
    port: (server.address() as AddressInfo).port,
    lines,
    async close() {
      sockets.forEach((s) => s.destroy());
      server.close();
      await once(server, 'close');
    },
  };
}

describe('the unit', () => {
  let standIn: Awaited<ReturnType<typeof startStandIn>>;
  let heard: Awaited<ReturnType<typeof listen>>;
  const index = (id: string): number => skerry.channels.findIndex((c) => c.id === id);
  const reader = new DeviceLineReader(skerry.channels);
  const last = (): DeviceLineReader => {
    reader.read(heard.lines[heard.lines.length - 1]!);
    return reader;
  };
  beforeAll(async () => {
    standIn = await startStandIn();
    heard = await listen();
    standIn.connect(heard.port);
    await waitUntil(() => heard.lines.length > 5);
  });
  afterAll(async () => {
    standIn.stop();
    await heard.close();
  });

  test('sends a frame every twenty milliseconds of its own clock, every line readable', () => {
    const times = heard.lines.map((line) => {
      expect(reader.read(line)).toBeNull();
      return reader.t_s;
    });
    times.slice(1).forEach((t, i) => expect(t - times[i]!).toBeCloseTo(0.02, 6));
  });

  test('a moved switch shows in the frames; a momentary one is let go', async () => {
    standIn.unit.obey({ cmd: 'reset', preset: 'mild', seed: 3 });
    standIn.unit.obey({ cmd: 'move', actions: [{ control: 'battery', to: 1 }] });
    await waitUntil(() => last().values[index('bus.volts')]! > 24);
    expect(last().values[index('switch.battery')]).toBe(1);
    for (const control of ['boost', 'load.base_bus']) standIn.unit.obey({ cmd: 'move', actions: [{ control, to: 1 }] });
    standIn.unit.obey({ cmd: 'move', actions: [{ control: 'e1.mode', to: 'IDLE' }] });
    standIn.unit.obey({ cmd: 'move', actions: [{ control: 'e1.start', to: 1, release_s: 0.3 }] });
    await waitUntil(() => last().values[index('starter.1.amps')]! > 200);
    expect(last().values[index('engine.1.selector')]).toBe(1);
  });

  test('a reset begins another day: cold, off, in the conditions asked for', async () => {
    expect(standIn.unit.obey({ cmd: 'reset', preset: 'cold' })).toMatchObject({ ok: true, preset: 'cold' });
    await waitUntil(() => last().values[index('outside.air')] === -8);
    expect(last().values[index('switch.battery')]).toBe(0);
    expect(last().values[index('bus.volts')]).toBe(0);
  });

  test('its clock goes on through silence and reset', async () => {
    const before = last().t_s;
    standIn.unit.obey({ cmd: 'stream', on: false });
    const silentAt = heard.lines.length;
    const state = standIn.unit.obey({ cmd: 'state' });
    await waitUntil(() => {
      const now = standIn.unit.obey({ cmd: 'state' });
      return now.ok && state.ok && now.t_s > state.t_s + 0.2;
    });
    expect(heard.lines.length - silentAt).toBeLessThanOrEqual(1);
    standIn.unit.obey({ cmd: 'stream', on: true });
    await waitUntil(() => heard.lines.length > silentAt + 3);
    expect(last().t_s).toBeGreaterThan(before + 0.2);
  });

  test('what it does not know it says, and goes on', () => {
    expect(standIn.unit.obey({ cmd: 'reset', preset: 'volcano' })).toMatchObject({
      ok: false,
      message: expect.stringContaining('volcano') as string,
    });
    expect(standIn.unit.obey({ cmd: 'move', actions: [{ control: 'ejection-seat', to: 1 }] })).toMatchObject({
      ok: false,
    });
    expect(standIn.unit.obey({ cmd: 'state' }).ok).toBe(true);
  });

  test('finds a listener again after it was gone', async () => {
    const { port } = heard;
    await heard.close();
    heard = await listen(port);
    await waitUntil(() => heard.lines.length > 3);
    expect(reader.read(heard.lines[heard.lines.length - 1]!)).toBeNull();
  });
});

describe('the control port', () => {
  test('answers each line by a line, also what is no command', async () => {
    const unit = new Unit(skerry, { send: () => undefined, use: () => undefined });
    const server = await openControlPort(0, 'word', (command) => unit.obey(command));
    const socket = net.connect((server.address() as AddressInfo).port, '127.0.0.1');
    const answers: StandInAnswer[] = [];
    readline.createInterface({ input: socket }).on('line', (l) => answers.push(JSON.parse(l) as StandInAnswer));
    for (const command of ['"state"', '"fly"', '"move","actions":[{"control":"battery","to":1}]'])
      socket.write(`{"token":"word","cmd":${command}}\n`);
    await waitUntil(() => answers.length === 3);
    expect(answers.map((a) => a.ok)).toEqual([true, false, true]);
    socket.destroy();
    server.close();
  });

  test.each([
    ['a word that it does not know', '{"token":"guess","cmd":"move","actions":[{"control":"battery","to":1}]}\n'],
    ['no word at all', '{"cmd":"state"}\n'],
    ['what a web page can be made to post', 'POST / HTTP/1.1\r\nHost: x\r\n\r\n{"token":"word","cmd":"state"}\n'],
    ['a line without an end', 'x'.repeat(10_000)],
  ])('closes on %s, and obeys nothing', async (_, text) => {
    const obeyed: unknown[] = [];
    const server = await openControlPort(0, 'word', (command) => {
      obeyed.push(command);
      return { ok: false, message: '' };
    });
    const socket = net.connect((server.address() as AddressInfo).port, '127.0.0.1');
    socket.on('error', () => undefined);
    socket.write(text);
    await new Promise((resolve) => socket.once('close', resolve));
    expect(obeyed).toEqual([]);
    server.close();
  });

  test('a port that is taken is an error, not a hang', async () => {
    const first = await openControlPort(0, '', () => ({ ok: false, message: '' }));
    await expect(
      openControlPort((first.address() as AddressInfo).port, '', () => ({ ok: false, message: '' })),
    ).rejects.toThrow(/EADDRINUSE/);
    first.close();
  });
});
