import { readFileSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from '../measure.ts';

const DIR = path.join(ROOT, 'core/src/simulator/piston');
const FILES = ['ramp', 'vapour', 'grip', 'electrics', 'mixture', 'combustion', 'drive', 'slow', 'sensors', 'plant'];
const WORDS: Readonly<Record<string, number>> = {
  OFF: 0,
  R: 1,
  L: 2,
  BOTH: 3,
  START: 4,
  ok: 0,
  slip: 1,
  sticking: 2,
  seized: 3,
};
const C_TYPES: Readonly<Record<string, string>> = {
  PistonState: 'X *',
  PistonControls: 'C *',
  PistonFaults: 'F *',
  PistonParameters: 'P *',
  number: 'double ',
};

/**
 * The equations of the piston plant as C, from the same source files: the plant is written in a subset of the language
 * that is C but for its spelling. What is called as a member of the plant or of its gauges becomes a function.
 */
export function pistonAsC(): string {
  const bodies = FILES.map((name) => functionsOf(readFileSync(path.join(DIR, `${name}.ts`), 'utf8')));
  const prototypes = bodies.flatMap((b) => [...b.matchAll(/^static [^{;]+\)(?= \{)/gm)].map((m) => `${m[0]};`));
  return [...prototypes, ...bodies].join('\n');
}

function functionsOf(source: string): string {
  let s = source
    .replace(/\/\*\*[\s\S]*?\*\/|\/\/[^\n]*/g, '')
    .replace(/^import[\s\S]*?;\n/gm, '')
    .replace(/^export \{[^}]*\};\n/gm, '')
    .replace(/\bexport /g, '')
    .replace(/ as const/g, '');
  s = s.replace(/^const TAU_s = \{([^}]*)\};/m, (_m, members: string) =>
    members.replace(/\s*(\w+): ([\d.]+),?/g, 'static const double TAU_s_$1 = $2;\n'),
  );
  s = s.replace(/TAU_s\.(\w+)/g, 'TAU_s_$1');
  s = methodsOf(s);
  s = s.replace(
    /^const (\w+) = \((\w+): number\): number => ([^;]+);/gm,
    'function $1($2: number): number { return $3; }',
  );
  s = s.replace(/^const (\w+) =/gm, 'static const double $1 =');
  s = s.replace(/function (\w+)\(([^)]*)\): (\w+) \{/g, (_m, name: string, args: string, result: string) => {
    const inC = args.split(',').filter((a) => a.trim()).map((a) => {
      const [arg, type] = a.split(':').map((t) => t.trim()) as [string, string];
      return `${C_TYPES[type] ?? 'double '}${arg}`;
    }); // oxfmt-ignore
    return `static ${result === 'void' ? 'void' : 'double'} ${name}_(${inC.join(', ')}) {`;
  });
  const named = new Set([...s.matchAll(/static (?:void|double) (\w+)_\(/g)].map((m) => m[1]!));
  for (const name of [...named, 'ramp', 'clip', 'throat_C', 'overWater_Pa', 'overIce_Pa', ...CALLED])
    s = s.replace(new RegExp(`(?<![\\w.>])${name}\\(`, 'g'), `${name}_(`);
  return spelled(s);
}

const CALLED = ['gripStep', 'electrics', 'breathe', 'carburate', 'burn', 'rotorLoad', 'couple', 'settleSlow'];

/** Methods of the two classes as functions: of the gauges on `s`, of the plant on `x`. */
function methodsOf(source: string): string {
  const found = /^class (\w+)[^{]*\{([\s\S]*)^\}/m.exec(source);
  if (!found) return source;
  const self = found[1] === 'PistonSensors' ? 's' : 'x';
  const methods = [...found[2]!.matchAll(/^ {2}(?:private )?(\w+)\(([^)]*)\): void \{\n([\s\S]*?)^ {2}\}/gm)]
    .filter((m) => m[1] !== 'constructor' && m[1] !== 'settle')
    .map(([, name, args, body]) => {
      const own = body!
        .replace(/this\.sensors\.follow\(this, /g, 'follow_(&x->sensors, x, ')
        .replace(/this\.accumulate\(/g, 'accumulate_(x, ')
        .replace(/\bthis,/g, 'x,')
        .replace(/\bthis\.p\./g, 'x.p.')
        .replace(/this\./g, self === 's' ? 's->' : 'x->');
      const first = self === 's' ? 'S *s, ' : 'X *x, ';
      const inC = args!.split(',').map((a) => {
        const [arg, type] = a.split(':').map((t) => t.trim()) as [string, string];
        return `${C_TYPES[type] ?? 'double '}${arg}`;
      });
      return `static void ${name}_(${first}${inC.join(', ')}) {\n${own}}`;
    });
  return source.slice(0, found.index) + methods.join('\n');
}

/** Spelling that every file of the plants needs: members, constants, loops. */
export function spelled(source: string): string {
  return source
    .replace(/\b(\d+)_(\d{3})\b/g, '$1$2')
    .replace(/(?<![\w.])(\d+) \/ (\d+)(?![\w.])/g, '$1.0 / $2')
    .replace(/c\.pilotN !== null/g, '!isnan(c.pilotN)')
    .replace(
      /const \{ ([\w, ]+) \} = (x(?:\.env)?);/g,
      (_m, names: string, of: string) =>
      names.split(', ').map((n) => `const double ${n} = ${of}.${n};`).join(' '), // oxfmt-ignore
    )
    .replace(/const p = x\.p;/g, 'P *p = x->p;')
    .replace(/\((\w+) \/ ([\d.]+)\) \*\* 2/g, '(($1 / $2) * ($1 / $2))')
    .replace(/for \(let (\w) = /g, 'for (int $1 = ')
    .replace(/let (\w+): number;/g, 'double $1;')
    .replace(/\blet (\w+) =(?=\s)/g, 'double $1 =')
    .replace(/\bconst (\w+) =/g, 'const double $1 =')
    .replace(/static const double double/g, 'static const double')
    .replace(/\bx\.plugs\.length/g, '8')
    .replace(/\]!/g, ']')
    .replace(/,(\s*\))/g, '$1')
    .replace(/static const double (\w+) = (\d+);/g, '#define $1 $2')
    .replace(/'(\w+)'/g, (_m, word: string) => String(WORDS[word]))
    .replace(/\b(x|p|c|f)\.(?=[A-Za-z_])/g, '$1->')
    .replace(/Math\.(max|min)\(/g, 'f$1(')
    .replace(/Math\.abs\(/g, 'fabs(')
    .replace(/Math\.(sqrt|round|floor)\(/g, '$1(')
    .replace(/Math\.PI/g, 'M_PI')
    .replace(/Math\.SQRT2/g, 'M_SQRT2')
    .replace(/\bInfinity\b/g, 'INFINITY')
    .replace(/===/g, '==')
    .replace(/!==/g, '!=')
    .replace(/\btrue\b/g, '1')
    .replace(/\bfalse\b/g, '0');
}
