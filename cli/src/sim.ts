import { writeFileSync } from 'node:fs';
import { runScenario, type Scenario, scenarioSchema } from '@rouse/core/simulator';
import { z } from 'zod';
import { BadInput, check } from './bad-input.ts';
import { findWatchedType, readJson } from './files.ts';

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
      const type = findWatchedType(String((raw as { type?: unknown }).type));
      const scenario = check(scenarioSchema, raw, `scenarios.${i}`);
      const { checks, log } = run(type.simulator, scenario);
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

function run(parameters: Parameters<typeof runScenario>[0], scenario: Scenario): ReturnType<typeof runScenario> {
  try {
    return runScenario(parameters, scenario);
  } catch (error) {
    if (error instanceof RangeError) throw new BadInput('UNKNOWN_NAME', error.message, scenario.id);
    throw error;
  }
}

function csvOf(log: ReturnType<typeof runScenario>['log']): string {
  const names = [...log.columns.keys()];
  const rows = log.t.map((t, i) => [t.toFixed(2), ...names.map((n) => log.columns.get(n)![i])].join(','));
  return `${['t_s', ...names].join(',')}\r\n${rows.join('\r\n')}\r\n`;
}
