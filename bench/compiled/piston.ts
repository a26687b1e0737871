import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { PistonParameters } from '@rouse/core/aircraft';
import { coldPistonControls, noPistonFaults, PistonPlant } from '@rouse/core/simulator';
import { best, type Line } from '../measure.ts';
import { pistonAsC } from './translate.ts';

const SIMULATED_S = 600;
const AGREES_WITHIN = 1e-6;

/** What the hands do in both: the steps at which a control moves. */
const HANDS: readonly [number, string, number][] = [
  [0, 'primer', 1],
  [300, 'primer', 0],
  [600, 'mags', 3],
  [600, 'starter', 1],
  [1200, 'starter', 0],
  [1200, 'pilotN', 0.48],
  [3000, 'clutch', 1],
];
const MAGNETOS = ['OFF', 'R', 'L', 'BOTH', 'START'] as const;

/** The piston plant against the same equations compiled from C; null, with a word, where there is no compiler. */
export function compiledPiston(p: PistonParameters): Line | null {
  if (spawnSync('cc', ['--version']).status !== 0) {
    console.log('skipped simulator against C: there is no compiler; apt-get install gcc libc6-dev');
    return null;
  }
  const dir = mkdtempSync(path.join(tmpdir(), 'rouse-c-'));
  writeFileSync(path.join(dir, 'plant.c'), program(p));
  execFileSync('cc', ['-O2', '-o', path.join(dir, 'plant'), path.join(dir, 'plant.c'), '-lm']);
  const runs = Array.from({ length: 15 }, () => {
    const [seconds, n, head] = execFileSync(path.join(dir, 'plant'), { encoding: 'utf8' }).split(' ').map(Number);
    return { seconds: seconds!, n: n!, head: head! };
  });
  rmSync(dir, { recursive: true });
  const compiled_s = Math.min(...runs.map((r) => r.seconds));
  let ours = fly(p);
  const ours_s = best(15, () => (ours = fly(p)));
  const { n, head } = runs[0]!;
  if (Math.abs(n - ours.n) > AGREES_WITHIN || Math.abs(head - ours.Th) > AGREES_WITHIN * 100)
    throw new Error(`not the same equations: ${n} against ${ours.n}, ${head} against ${ours.Th}`);
  return {
    name: 'simulator: T2 against the same equations compiled from C',
    value: ours_s / compiled_s,
    unit: 'times its time',
    wanted: 'at most',
    target: 2.5,
    remark: `${(SIMULATED_S / compiled_s).toFixed(0)} times real time compiled; both end at ${(100 * n).toFixed(3)} % and ${head.toFixed(3)} °C`,
  };
}

function fly(p: PistonParameters): PistonPlant {
  const plant = new PistonPlant(p);
  const controls = { ...coldPistonControls(), master: 1, alt: 1, mix: 1, grip: 0.17 };
  const faults = noPistonFaults();
  for (let k = 0; k < SIMULATED_S * 100; k++) {
    for (const [at, name, to] of HANDS)
      if (at === k) Object.assign(controls, { [name]: name === 'mags' ? MAGNETOS[to] : to });
    plant.step(controls, faults, 0.01);
  }
  return plant;
}

/** The whole program: the shapes of state, parameters and controls as they stand, the equations, and a run. */
function program(p: PistonParameters): string {
  const plant = new PistonPlant(p);
  const numbers = (of: object): [string, number][] =>
    Object.entries(of).flatMap(([k, v]) =>
      typeof v === 'number' ? [[k, v] as [string, number]] : typeof v === 'boolean' ? [[k, Number(v)] as [string, number]] : [],
    ); // oxfmt-ignore
  const shape = (name: string, of: object, more = ''): string =>
    `typedef struct { ${numbers(of).map(([k]) => `double ${k};`).join(' ')} ${more} } ${name};`; // oxfmt-ignore
  const set = (to: string, of: object): string => numbers(of).map(([k, v]) => `${to}${k} = ${v};`).join(' '); // oxfmt-ignore
  const controls = { ...coldPistonControls(), mags: 0, pilotN: 0, master: 1, alt: 1, mix: 1, grip: 0.17 };
  const faults = { ...noPistonFaults(), sprag: 0 };
  return `#include <math.h>
#include <stdio.h>
#include <time.h>
${shape('P', p)}
${shape('C', controls)}
${shape('F', faults)}
${shape('S', plant.sensors)}
typedef struct { double oat, pa_ft, dew, wind; } E;
${shape('X', plant, 'double plugs[8]; P *p; E env; S sensors;')}
static const double KELVIN = 273.15, R_AIR = 287.05;
static double clip_(double v, double a, double b) { return v < a ? a : v > b ? b : v; }
${pistonAsC()}
int main(void) {
  static P p; static C c; static F f; static X x;
  ${set('p.', p)} ${set('c.', controls)} ${set('f.', faults)} ${set('x.', plant)} ${set('x.env.', plant.env)} ${set('x.sensors.', plant.sensors)}
  c.pilotN = NAN; x.p = &p;
  for (int i = 0; i < 8; i++) x.plugs[i] = 1;
  struct timespec a, b;
  clock_gettime(CLOCK_MONOTONIC, &a);
  for (long k = 0; k < ${SIMULATED_S * 100}; k++) {
    ${HANDS.map(([at, name, to]) => `if (k == ${at}) c.${name} = ${to};`).join(' ')}
    step_(&x, &c, &f, 0.01);
  }
  clock_gettime(CLOCK_MONOTONIC, &b);
  printf("%.9f %.12f %.9f\\n", (double)(b.tv_sec - a.tv_sec) + 1e-9 * (double)(b.tv_nsec - a.tv_nsec), x.n, x.Th);
  return 0;
}
`;
}
