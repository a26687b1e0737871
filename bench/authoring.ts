import path from 'node:path';
import { folderNames, libraryIn, readFolder } from '@rouse/aircraft';
import { auditType } from '@rouse/core/audit';
import { compileType, type TypeFolder, YamlTexts } from '@rouse/core/authoring';
import { tryStart } from '@rouse/core/replay';
import { decodeChunk, encodeChunk, type Trace } from '@rouse/core/trace';
import { best, type Line, many, ROOT, share, skerry } from './measure.ts';

const STARTS = 40;
const KEYS = 100;
/** the first keys compile what no editor has open for the first time */
const WARM_KEYS = 5;

/** What a person who writes a type waits for: a build, a key, and a draft over the starts that are kept. */
export function authoring(trace: Trace): Line[] {
  const folders = path.join(ROOT, 'aircraft');
  const library = libraryIn(folders);
  const written = folderNames(folders).map((name) => readFolder(path.join(folders, name))!);
  const sizes = written.map((folder) => compileType(folder, library).type?.items.length ?? 0);
  const largest = written[sizes.indexOf(Math.max(...sizes))]!;
  return [
    {
      name: `authoring: build of the largest type, ${Math.max(...sizes)} items`,
      value: best(10, () => void compileType(largest, library)) * 1000,
      unit: 'ms',
      wanted: 'at most',
      target: 300,
    },
    keys(largest, library),
    tried(trace),
  ];
}

/** A letter more in the reason of an item: compiled and audited, as the editor's worker does at every key. */
function keys(written: TypeFolder, library: ReturnType<typeof libraryIn>): Line {
  const file = 'procedure/before-start.yaml';
  const folder: Record<string, string> = { ...written };
  const texts = new YamlTexts();
  const taken_ms: number[] = [];
  for (let i = 0; i < many(KEYS, 3) + WARM_KEYS; i++) {
    folder[file] = folder[file]!.replace(/why: /, 'why: x');
    const since = performance.now();
    const { type } = compileType(folder, library, texts);
    auditType(type!);
    if (i >= WARM_KEYS) taken_ms.push(performance.now() - since);
  }
  return {
    name: 'authoring: a key in an item of the largest type, to what is wrong, p95',
    value: share(taken_ms, 0.95),
    unit: 'ms',
    wanted: 'at most',
    target: 50,
    remark: `median ${share(taken_ms, 0.5).toFixed(1)} ms`,
  };
}

/** A start as it is kept, unpacked and watched by two versions of its type. */
function tried(trace: Trace): Line {
  const rows = trace.t_s.findIndex((t) => t > 120);
  const packed = encodeChunk(
    { ...trace, t_s: trace.t_s.slice(0, rows), columns: trace.columns.map((c) => c.slice(0, rows)) },
    skerry.channels.map((c) => c.resolution),
  );
  const starts = many(STARTS, 1);
  const took_s = best(2, () => {
    for (let i = 0; i < starts; i++)
      if (tryStart(skerry, skerry, decodeChunk(packed, trace.channels)).outcome !== 'as-before')
        throw new Error('a start went otherwise under the same version');
  });
  return {
    name: `authoring: a draft over ${STARTS} starts`,
    value: took_s,
    unit: 's',
    wanted: 'at most',
    target: 3,
    remark: 'two minutes each at 50 Hz, without their way from the server',
  };
}
