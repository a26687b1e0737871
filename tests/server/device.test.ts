import dgram from 'node:dgram';
import { once } from 'node:events';
import net, { type AddressInfo } from 'node:net';
import { afterEach, describe, expect, test } from 'vitest';
import { listenForUnit, type UnitListener } from '../../server/src/device/listener.ts';
import { StandInClient } from '../../server/src/device/stand-in-client.ts';
import { isOwnOrigin } from '../../server/src/origin.ts';
import { waitUntil } from '../rouse.ts';

const open: (net.Server | net.Socket | UnitListener)[] = [];
afterEach(() => {
  for (const one of open.splice(0)) {
    if (one instanceof net.Socket) one.destroy();
    else one.close();
  }
});

/** A listener with what it heard. */
async function listener(): Promise<{
  port: number;
  sink: {
    connected: boolean;
    heard: string[];
    refused: string[];
    line(text: string): void;
    secondUnit(from: string): void;
  };
}> {
  const sink = {
    connected: false,
    heard: [] as string[],
    refused: [] as string[],
    secondUnit(from: string) {
      sink.refused.push(from);
    },
    line(text: string) {
      sink.heard.push(text);
    },
  };
  const server = await listenForUnit(0, { now: () => sink, soon: () => Promise.resolve(sink) });
  open.push(server);
  return { port: server.port, sink };
}

async function connect(port: number): Promise<net.Socket> {
  const socket = net.connect(port, '127.0.0.1');
  open.push(socket);
  socket.on('error', () => undefined);
  await once(socket, 'connect');
  return socket;
}

describe('the device line', () => {
  test('lines arrive whole, however the bytes were cut', async () => {
    const { port, sink } = await listener();
    const unit = await connect(port);
    expect(sink.connected).toBe(false);
    unit.write('{"t":1}\n{"t"');
    await waitUntil(() => sink.heard.length === 1);
    unit.write(':2}\r\n{"t":3}\n');
    await waitUntil(() => sink.heard.length === 3);
    expect(sink.heard).toEqual(['{"t":1}', '{"t":2}', '{"t":3}']);
  });

  test.each([
    ['nobody watches its aircraft', () => Promise.resolve(null)],
    ['it cannot be said who does', () => Promise.reject(new Error('the database is away'))],
  ])('a unit is hung up on, and nothing falls, while %s', async (_why, soon) => {
    const server = await listenForUnit(0, { now: () => null, soon });
    open.push(server);
    const unit = await connect(server.port);
    if (!unit.destroyed) await once(unit, 'close');
    expect(unit.destroyed).toBe(true);
  });

  test('who speaks first is the unit; a second one is refused in words and told, whatever it speaks over', async () => {
    const { port, sink } = await listener();
    const first = await connect(port);
    first.write('first\n');
    await waitUntil(() => sink.heard.length === 1);
    const second = await connect(port);
    let said = '';
    second.on('data', (data: Buffer) => (said += data.toString()));
    second.write('second\n');
    await once(second, 'end');
    expect(said).toMatch(/another unit speaks on this line/);
    const datagrams = dgram.createSocket('udp4');
    datagrams.send('third\n', port, '127.0.0.1');
    await waitUntil(() => sink.refused.length === 2);
    datagrams.close();
    first.write('still first\n');
    await waitUntil(() => sink.heard.length === 2);
    expect(sink).toMatchObject({ heard: ['first', 'still first'], connected: true });
    first.destroy();
    await waitUntil(() => !sink.connected);
    const next = await connect(port);
    next.write('next\n');
    await waitUntil(() => sink.heard.length === 3);
  });

  test('a unit that has fallen silent loses its place to the one that speaks', async () => {
    const { port, sink } = await listener();
    const silent = await connect(port);
    silent.write('once\n');
    await waitUntil(() => sink.heard.length === 1);
    const heard = await waitUntil(async () => {
      const next = await connect(port);
      next.resume();
      next.write('again\n');
      await waitUntil(() => sink.heard.length === 2 || next.readableEnded || next.destroyed);
      return sink.heard.length === 2 ? sink.heard : null;
    });
    expect(heard).toEqual(['once', 'again']);
  });

  test('datagrams come in at the same port, a line or several in each, and make the line live', async () => {
    const { port, sink } = await listener();
    const unit = dgram.createSocket('udp4');
    unit.send('$IIXDR,C,1.0,C,OAT*00\r\n', port, '127.0.0.1');
    await waitUntil(() => sink.heard.length === 1);
    expect(sink.connected).toBe(true);
    unit.send('{"t":1}\n{"t":2}\n', port, '127.0.0.1');
    await waitUntil(() => sink.heard.length === 3);
    unit.close();
    expect(sink.heard).toEqual(['$IIXDR,C,1.0,C,OAT*00', '{"t":1}', '{"t":2}']);
  });

  test.each([
    ['what a web page can be made to send', 'POST / HTTP/1.1\r\nHost: x\r\n\r\n{"t":1,"ng.1":99}\n'],
    ['a line without an end', 'x'.repeat(70_000)],
  ])('%s is closed and not heard', async (_, text) => {
    const { port, sink } = await listener();
    const rude = await connect(port);
    rude.write(text);
    await new Promise((resolve) => rude.once('close', resolve));
    expect(sink.heard).toEqual([]);
  });

  test('a connection that is torn down does not end the listener', async () => {
    const { port, sink } = await listener();
    const rude = await connect(port);
    rude.resetAndDestroy();
    await waitUntil(() => !sink.connected);
    const next = await connect(port);
    next.write('still here\n');
    await waitUntil(() => sink.heard.length === 1);
    expect(sink.heard).toEqual(['still here']);
  });
});

describe('the stand-in’s control port, from the server', () => {
  async function answering(answer: (line: string) => string | null): Promise<StandInClient> {
    const server = net.createServer((socket) => {
      socket.on('error', () => undefined);
      socket.on('data', (data) => {
        const reply = answer(data.toString());
        if (reply === null) socket.destroy();
        else socket.write(`${reply}\n`);
      });
    });
    open.push(server);
    server.listen(0, '127.0.0.1');
    await once(server, 'listening');
    return new StandInClient({ port: (server.address() as AddressInfo).port, token: 'word' });
  }

  test('a command goes over as one line and its answer comes back', async () => {
    let heard = '';
    const client = await answering((line) => {
      heard = line;
      return '{"ok":true,"preset":"mild","streaming":true,"t_s":1,"epoch_ms":2}';
    });
    expect(await client.send({ cmd: 'move', actions: [{ control: 'battery', to: 1 }] })).toMatchObject({
      preset: 'mild',
    });
    expect(heard).toBe('{"token":"word","cmd":"move","actions":[{"control":"battery","to":1}]}\n');
  });

  test('nobody there, a hang-up and a no are three different refusals', async () => {
    await expect(new StandInClient({ port: 1, token: '' }).send({ cmd: 'state' })).rejects.toMatchObject({
      code: 'no-stand-in',
    });
    const hangsUp = await answering(() => null);
    await expect(hangsUp.send({ cmd: 'state' })).rejects.toMatchObject({ code: 'no-stand-in' });
    const says = await answering(() => '{"ok":false,"message":"there is no input named wings"}');
    await expect(says.send({ cmd: 'move', actions: [{ control: 'wings', to: 1 }] })).rejects.toMatchObject({
      code: 'bad-request',
      message: 'there is no input named wings',
    });
  });
});

describe('who may speak to the server', () => {
  test.each<[Record<string, string | undefined>, boolean]>([
    [{ host: '127.0.0.1:8640' }, true],
    [{ host: 'localhost:8640', origin: 'http://localhost:8640' }, true],
    [{ host: '[::1]:8640' }, true],
    [{ host: '127.0.0.1:8640', origin: 'http://127.0.0.1:9999' }, false],
    [{ host: '127.0.0.1:8640', origin: 'null' }, false],
    [{ host: 'rouse.example:8640' }, false],
    [{ host: '127.0.0.1.example:8640' }, false],
    [{}, false],
  ])('%j: %s', (headers, let_in) => {
    expect(isOwnOrigin(headers, null)).toBe(let_in);
  });
});
