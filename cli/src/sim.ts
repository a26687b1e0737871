import { writeFileSync } from 'node:fs';
import { isPiston } from '@rouse/core/aircraft';
import { pistonScenarioSchema, runPistonScenario, runScenario, scenarioSchema } from '@rouse/core/simulator';
import { z } from 'zod';
import { BadInput, check } from './bad-input.ts';
import { findType, readJson } from './files.ts';

const fileSchema = z.union([
  z.looseObject({ scenarios: z.array(z.unknown()) }),
  z.array(z.unknown()),
  z.looseObject({ id: z.string() }),
]);

/**
 * `sim --scenario F.json [--id ID] [--csv OUT.csv]`: one line a scenario with each outcome measured.
 * @param csv writes the 50 Hz log of the outcomes' signals of the last scenario
 */
export function sim(options: { scenario?: string; id?: string; csv?: string }, print: (line: unknown) => void): void {
  if (!options.scenario) throw new BadInput('MISSING', 'sim needs --scenario FILE', 'scenario');
  const parsed = check(fileSchema, readJson(options.scenario), options.scenario);
  const list: unknown[] = Array.isArray(parsed)
    ? parsed
    : 'scenarios' in parsed
      ? (parsed['scenarios'] as unknown[])
      : [parsed];
  const wanted = list
    .map((raw, i) => ({ raw, i, id: (raw as { id?: string }).id }))
    .filter(({ id }) => options.id === undefined || id === options.id);
  if (wanted.length === 0) throw new BadInput('UNKNOWN_ID', `the file has no scenario ${options.id ?? ''}`, 'id');
  let refused: BadInput | null = null;
  for (const { raw, i, id } of wanted) {
    try {
      const { type, variant } = raw as { type?: unknown; variant?: unknown };
      const { simulator, name } = findType(String(type ?? variant));
      if (!simulator) throw new BadInput('NOT_SIMULATED', `${name} has no simulator yet`, 'type');
      const { checks, log } = isPiston(simulator)
        ? named(id, () => runPistonScenario(simulator, check(pistonScenarioSchema, raw, `scenarios.${i}`)))
        : named(id, () => runScenario(simulator, check(scenarioSchema, raw, `scenarios.${i}`)));
      print({ id, checks });
      if (options.csv) writeFileSync(options.csv, csvOf(log));
    } catch (error) {
      if (!(error instanceof BadInput)) throw error;
      // the others of the file are still worth running
      print({ id, error: { code: error.code, message: error.message, path: error.path } });
      refused = error;
    }
  }
  if (refused)
    throw new BadInput('SOME_REFUSED', 'at least one scenario could not be run; its line says why', refused.path);
}

/** Runs it; a name that the simulator does not know is bad input. */
function named<T>(id: string | undefined, run: () => T): T {
  try {
    return run();
  } catch (error) {
    if (error instanceof RangeError) throw new BadInput('UNKNOWN_NAME', error.message, id ?? '');
    throw error;
  }
}

function csvOf(log: { t: number[]; columns: Map<string, (number | string)[]> }): string {
  const names = [...log.columns.keys()];
  const rows = log.t.map((t, i) => [t.toFixed(2), ...names.map((n) => log.columns.get(n)![i])].join(','));
  return `${['t_s', ...names].join(',')}\r\n${rows.join('\r\n')}\r\n`;
}
