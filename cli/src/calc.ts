import path from 'node:path';
import { calculate, CALCULATOR_NAMES, type CalculatorAircraft } from '@rouse/core/calculator';
import { BadInput } from './bad-input.ts';
import { readJson } from './files.ts';

/** The two invented aircraft of the cases in vectors/. */
function referenceFleet(): Record<string, CalculatorAircraft> {
  const file = path.resolve(import.meta.dirname, '../../vectors/reference-aircraft.json');
  return (readJson(file) as { aircraft: Record<string, CalculatorAircraft> }).aircraft;
}

function parsed(text: string, place: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new BadInput('NOT_JSON', error instanceof Error ? error.message : String(error), place);
  }
}

function run(name: unknown, input: unknown, fleet: Record<string, CalculatorAircraft>, place: string): unknown {
  if (typeof input !== 'object' || input === null || Array.isArray(input))
    throw new BadInput('BAD_FIELD', 'the input is an object', `${place}input`);
  const result = typeof name === 'string' ? calculate(name, { ...input }, fleet) : undefined;
  if (result === undefined)
    throw new BadInput(
      'UNKNOWN_CALCULATOR',
      `there is no calculator ${String(name)}; there is ${CALCULATOR_NAMES.join(', ')}`,
      `${place}fn`,
    );
  return result;
}

/**
 * `calc NAME '{...}'` prints one result; a refused input is bad input.
 * @throws BadInput
 */
export function calc(args: readonly string[], print: (line: unknown) => void): void {
  const [name, json] = args;
  if (!name) throw new BadInput('USAGE', "calc NAME '{...}', or calc --batch < LINES", 'calc');
  const result = run(name, parsed(json ?? '{}', 'input'), referenceFleet(), '');
  if (typeof result === 'object' && result !== null && 'error' in result) {
    const { error, field } = result as unknown as { error: string; field: string };
    throw new BadInput(error, `${name} gives no figure: ${error} at ${field}`, field);
  }
  print(result);
}

/**
 * `calc --batch`: `{"fn":NAME,"input":{..}}` a line in, one result a line out in order; a refused line says so in its
 * place and the others go on.
 */
export function calcBatch(text: string, print: (line: unknown) => void): void {
  const fleet = referenceFleet();
  for (const [i, line] of text.split('\n').entries()) {
    if (line.trim() === '') continue;
    try {
      const asked = parsed(line, `line ${i + 1}`) as { fn?: unknown; input?: unknown } | null;
      print(run(asked?.fn, asked?.input, fleet, `line ${i + 1}.`));
    } catch (error) {
      // whatever one line does, the others are answered
      if (error instanceof BadInput) print({ error: error.code, field: error.path, message: error.message });
      else print({ error: 'INTERNAL', field: `line ${i + 1}`, message: String(error) });
    }
  }
}
