import { readFileSync } from 'node:fs';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { type Line, ROOT } from './measure.ts';

interface Chunk {
  file: string;
  imports?: string[];
}

/** Gzipped scripts that the first load of a view fetches: the entry, the view, and what both import. */
export function pages(): Line[] {
  const dist = path.join(ROOT, 'web/dist');
  const manifest = JSON.parse(readFileSync(path.join(dist, '.vite/manifest.json'), 'utf8')) as Record<string, Chunk>;
  const weigh = (view: string): number => {
    const wanted = new Set<string>();
    const take = (key: string): void => {
      if (wanted.has(key)) return;
      wanted.add(key);
      const chunk = manifest[key];
      if (!chunk) throw new Error(`${key} is no view of the built page; there is ${Object.keys(manifest).join(', ')}`);
      chunk.imports?.forEach(take);
    };
    take('index.html');
    take(view);
    return (
      [...wanted].reduce((sum, key) => sum + gzipSync(readFileSync(path.join(dist, manifest[key]!.file))).length, 0) /
      1000
    );
  };
  return [
    {
      name: 'first load of Today',
      value: weigh('src/features/today/today.tsx'),
      unit: 'kB gzipped scripts',
      wanted: 'at most',
      target: 175,
    },
    {
      name: 'first load of Start',
      value: weigh('src/features/start/start.tsx'),
      unit: 'kB gzipped scripts',
      wanted: 'at most',
      target: 380,
    },
    {
      name: 'first load of Debrief',
      value: weigh('src/features/debrief/debrief.tsx'),
      unit: 'kB gzipped scripts',
      wanted: 'at most',
      target: 340,
      remark: `${weigh('src/features/debrief/whole-run-chart.tsx').toFixed(0)} kB with the zoomable chart, which comes after it`,
    },
  ];
}
