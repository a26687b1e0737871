import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, expect, test } from 'vitest';
import { Reckoner } from '../../server/src/reckon/reckoner.ts';
import { skerry } from '../rouse.ts';

const dir = mkdtempSync(path.join(tmpdir(), 'rouse-reckoner-'));
const file = path.join(dir, 'worker.mjs');
/** falls over trends, and answers everything else once the thread before it has surely ended */
writeFileSync(
  file,
  `import { parentPort } from 'node:worker_threads';
   parentPort.on('message', ({ id, asked }) => {
     if (asked.kind === 'trends') throw new Error('out of room');
     setTimeout(() => parentPort.postMessage({ id, done: asked.kind }), 300);
   });`,
);
const reckoner = new Reckoner(file);
afterAll(async () => {
  await reckoner.close();
  rmSync(dir, { recursive: true });
});

test('a thread that fails is told to who waited for it, and does not take the next one with it', async () => {
  const nothing = {} as never;
  await expect(reckoner.trends(skerry, nothing)).rejects.toThrow('out of room');
  await expect(reckoner.day(nothing, null, null)).resolves.toBe('day');
});
