import { readFileSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from '../measure.ts';
import { spelled } from './translate.ts';

const DIR = path.join(ROOT, 'core/src/simulator');

/** What stands behind each name in the three classes of the turbine plant. */
const POINTERS: Readonly<Record<string, string>> = {
  Environment: 'Air *',
  EngineSurroundings: 'Around *',
  Controls: 'Cockpit *',
  'readonly Engine[]': 'Engine *',
};
const NAMES = ['air', 'around', 'controls', 'b', 'e', 'starter', 'gen', 'f', 'p', 'own'];

/** Bus, engine and rotor of the single-engine plant as C functions, from their own source files. */
export function turbineAsC(): string {
  const physics = functionsOf('physics');
  const classes = [
    methodsOf('electrical', 'ElectricalNetwork', 'Bus', 'BusP'),
    methodsOf('engine', 'Engine', 'Engine', 'EngineP'),
    methodsOf('rotor', 'Rotor', 'Rotor', 'RotorP'),
  ];
  const all = [physics, ...classes].join('\n');
  const prototypes = [...all.matchAll(/^static (?:double|void) [^{;]+\)(?= \{)/gm)].map((m) => `${m[0]};`);
  return [...prototypes, all].join('\n');
}

function sourceOf(name: string): string {
  return readFileSync(path.join(DIR, `${name}.ts`), 'utf8')
    .replace(/\/\*\*[\s\S]*?\*\/|\/\/[^\n]*/g, '')
    .replace(/^import[\s\S]*?;\n/gm, '')
    .replace(/\bexport /g, '');
}

/** Constants and plain functions, without those that take tables. */
function functionsOf(name: string): string {
  const s = sourceOf(name)
    .replace(/^function interpolate[\s\S]*?^}\n/m, '')
    .replace(/^const (\w+) = ([\d.e-]+);/gm, '#define $1 $2')
    .replace(/function (\w+)\(([^)]*)\): number \{/g, (_m, fn: string, args: string) => `static double ${fn}(${args.replace(/(\w+): number/g, 'double $1')}) {`); // oxfmt-ignore
  return pointed(s);
}

function methodsOf(file: string, className: string, struct: string, parameters: string): string {
  const source = sourceOf(file);
  const constants = [...source.matchAll(/^const (\w+) = ([\d.]+);/gm)].map((m) => `#define ${m[1]} ${m[2]}`);
  const body = new RegExp(`^class ${className}[^{]*\\{([\\s\\S]*?)^\\}`, 'm').exec(source)![1]!;
  const found = [...body.matchAll(/^ {2}(?:private )?(get )?(\w+)\(([^)]*)\): (\w+) \{\n([\s\S]*?)^ {2}\}/gm)].filter(
    (m) => m[2] !== 'constructor' && m[2] !== 'setLoads',
  );
  const getters = found.filter((m) => m[1]).map((m) => m[2]!);
  const names = found.filter((m) => !m[1]).map((m) => m[2]!);
  const functions = found.map(([, , name, args, result, inner]) => {
    const inC = args!
      .split(',')
      .filter((a) => a.trim())
      .map((a) => {
        const [arg, type] = a.split(/:(.*)/s).map((t) => t.trim()) as [string, string];
        return `${POINTERS[type] ?? 'double '}${arg}`;
      });
    let body_C = inner!
      .replace(/const p = this\.p;/g, `${parameters} *p = own->p;`)
      .replace(/const f = this\.faults;/g, 'EngineF *f = &own->faults;')
      .replace(/const (starters|generators) = this\.\1;/g, 'Branch *$1 = own->$1;')
      .replace(/const (\w+) = (starters|generators)\[i\]!;/g, 'Branch *$1 = &$2[i];')
      .replace(/const e = engines\[i\]!;/g, 'Engine *e = &engines[i];')
      .replace(/engines\[k\]!\./g, 'engines[k].')
      .replace(
        /for \(const (\w+) of this\.(starters|generators)\)/g,
        'for (Branch *$1 = own->$2; $1 < own->$2 + 1; $1++)',
      )
      .replace(/\b(starters|generators|engines)\.length/g, '1')
      .replace(/(starters|generators)\[i\]!\./g, '$1[i].')
      .replace(/this\.faults\./g, 'own->faults.')
      .replace(/this\.p\./g, 'own->p->')
      .replace(/\be\.p\./g, 'e->p->');
    for (const g of getters) body_C = body_C.replace(new RegExp(`this\\.${g}\\b`, 'g'), `${struct}_${g}(own)`);
    for (const m of names)
      body_C = body_C.replace(new RegExp(`this\\.${m}\\(\\)`, 'g'), `${struct}_${m}(own)`).replace(new RegExp(`this\\.${m}\\(`, 'g'), `${struct}_${m}(own, `); // oxfmt-ignore
    body_C = body_C.replace(/this\./g, 'own->');
    return `static ${result === 'void' ? 'void' : 'double'} ${struct}_${name}(${[`${struct} *own`, ...inC].join(', ')}) {\n${body_C}}`;
  });
  return pointed([...constants, ...functions].join('\n'));
}

function pointed(source: string): string {
  return spelled(source).replace(new RegExp(`\\b(${NAMES.join('|')})\\.(?=[A-Za-z_])`, 'g'), '$1->');
}
