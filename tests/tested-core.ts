import { readdirSync, readFileSync, mkdirSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { build } from 'esbuild';

const ROOT = path.resolve(import.meta.dirname, '..');
const OUT = path.join(ROOT, '.local/tested');

/** a file of it: Node reads it as it is */
export const TESTED = /\.local\/tested\//;

/**
 * The core as the programs have it: bundled, with one file for each folder that may be imported. Module by module, as the
 * test runner would load it, it is read slowly and runs half as fast again.
 * @returns what stands for its packages in the tests
 */
export async function bundleCore(): Promise<{ find: RegExp; replacement: string }[]> {
  const folders = readdirSync(path.join(ROOT, 'core/src'));
  const entries = folders.map((name) => ({ out: `core/${name}`, in: path.join(ROOT, 'core/src', name, 'index.ts') }));
  const { outputFiles } = await build({
    entryPoints: [...entries, { out: 'aircraft', in: path.join(ROOT, 'aircraft/src/index.ts') }],
    outdir: OUT,
    bundle: true,
    splitting: true,
    write: false,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
    plugins: [
      {
        name: 'packages stay outside',
        setup(bundling) {
          bundling.onResolve({ filter: /^@rouse\/core\// }, ({ path: name }) => ({
            path: path.join(ROOT, 'core/src', name.slice('@rouse/core/'.length), 'index.ts'),
          }));
          bundling.onResolve({ filter: /^[^./]/ }, ({ path: name }) => ({ path: name, external: true }));
        },
      },
    ],
  });
  for (const file of outputFiles) keep(file.path, file.text);
  return [
    { find: /^@rouse\/core\/(.+)$/, replacement: `${OUT}/core/$1.js` },
    { find: /^@rouse\/aircraft$/, replacement: `${OUT}/aircraft.js` },
  ];
}

/** Another run of tests may be reading it: what is the same is left alone, what is new comes whole. */
function keep(file: string, text: string): void {
  try {
    if (readFileSync(file, 'utf8') === text) return;
  } catch {
    mkdirSync(path.dirname(file), { recursive: true });
  }
  const beside = `${file}.${process.pid}`;
  writeFileSync(beside, text);
  renameSync(beside, file);
}
