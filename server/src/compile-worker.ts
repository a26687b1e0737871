// Compiles and audits a type beside the server's own thread: an alarm does not wait for it.
import { parentPort, workerData } from 'node:worker_threads';
import { auditType } from '@rouse/core/audit';
import { compileType, type TypeFolder } from '@rouse/core/authoring';

const { folder, library } = workerData as { folder: TypeFolder; library: Record<string, TypeFolder> };
const { type, problems, placeOf } = compileType(folder, (name) => library[name] ?? null);
const found = type ? auditType(type).map(({ path, ...words }) => ({ ...placeOf(path), ...words })) : [];
parentPort!.postMessage({ type, problems: [...problems, ...found] });
