// Flies the past of the demo beside the program that stores it, one thread a core.
import { parentPort } from 'node:worker_threads';
import type { WatchedType } from '@rouse/core/aircraft';
import { flyPlanned, type PlannedFlight } from './demo/flights.ts';

parentPort!.on('message', ({ type, flight }: { type: WatchedType; flight: PlannedFlight }) => {
  parentPort!.postMessage(flyPlanned(type, flight));
});
