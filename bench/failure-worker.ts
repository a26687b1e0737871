import { parentPort, workerData } from 'node:worker_threads';
import type { SimulatorParameters } from '@rouse/core/aircraft';
import { type FailurePoint, flyEngineFailure } from '@rouse/core/simulator';

const { parameters, points } = workerData as { parameters: SimulatorParameters; points: FailurePoint[] };
for (const at of points) parentPort!.postMessage(flyEngineFailure(parameters, at).holds);
