import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { flyPractice } from '@rouse/core/drill';
import { writeBundle, writeCsv } from '@rouse/core/format';
import { conditionsOf } from '@rouse/core/simulator';
import { zipSync } from 'fflate';
import { afterAll, describe, expect, test } from 'vitest';
import { ROOT, skerry } from '../rouse.ts';

const dir = mkdtempSync(path.join(tmpdir(), 'rouse-cli-'));
afterAll(() => rmSync(dir, { recursive: true }));

function cli(...args: string[]): { code: number | null; lines: Record<string, unknown>[] } {
  const { status, stdout } = spawnSync(process.execPath, [path.join(ROOT, 'cli/dist/main.js'), ...args], {
    encoding: 'utf8',
    maxBuffer: 1 << 26,
  });
  return {
    code: status,
    lines: stdout
      .trim()
      .split('\n')
      .filter(Boolean)
      .map((l) => JSON.parse(l) as Record<string, unknown>),
  };
}
function file(name: string, text: string): string {
  const place = path.join(dir, name);
  writeFileSync(place, text);
  return place;
}
const errorOf = (lines: Record<string, unknown>[]): { code: string; message: string; path: string } =>
  lines[0]!['error'] as never;

const preset = skerry.standIn.find((p) => p.id === 'hot-start')!;
const flown = flyPractice({
  type: skerry,
  conditions: conditionsOf(skerry, preset),
  faults: preset.faults,
  corridors: {},
  seed: 4,
});
const csv = file('hot.csv', writeCsv(flown.trace, skerry.channels));

describe('sim', () => {
  const scenarios = path.join(ROOT, 'core/tests/fixtures/turbine-scenarios.json');

  test('one line a scenario in file order, every outcome measured and judged', () => {
    // all of them are flown by the tests of the simulator
    const some = (JSON.parse(readFileSync(scenarios, 'utf8')) as { scenarios: { id: string }[] }).scenarios.slice(0, 6);
    const { code, lines } = cli('sim', '--scenario', file('some.json', JSON.stringify({ scenarios: some })));
    expect(code).toBe(0);
    expect(lines.map((l) => l['id'])).toEqual(some.map((s) => s.id));
    for (const line of lines) expect((line['checks'] as { ok: boolean }[]).every((c) => c.ok)).toBe(true);
  });

  test('--id chooses one, --csv writes its log', () => {
    const out = path.join(dir, 'log.csv');
    const { lines } = cli('sim', '--scenario', scenarios, '--id', 'S7-05', '--csv', out);
    expect(lines).toHaveLength(1);
    const rows = readFileSync(out, 'utf8').trim().split('\r\n');
    expect(rows[0]).toBe('t_s,e1.causes,e1.tot');
    expect(rows).toHaveLength(1 + 40 * 50);
  });

  test('--help names every command, or the ways of one', () => {
    const told = (...args: string[]): unknown[] => cli(...args).lines.map((line) => line['usage']);
    const all = told('--help');
    expect(all).toEqual(expect.arrayContaining([expect.stringMatching(/^watch /), 'run verify F.json']));
    expect(told('type', '--help')).toEqual(all.filter((usage) => String(usage).startsWith('type ')));
    expect(told('type', '--help')).toContain('type check FOLDER [--quick]');
    expect(cli('type', '--help').code).toBe(0);
  });

  test.each([
    [['sim'], 'MISSING', 'scenario'],
    [['sim', '--scenario', '/no/such.json'], 'NO_FILE', '/no/such.json'],
    [['sim', '--scenario', scenarios, '--id', 'S7-99'], 'UNKNOWN_ID', 'id'],
    [['fly'], 'USAGE', 'command'],
    [['sim', '--loud'], 'USAGE', ''],
  ])('%j ends with 2 and says why', (args, code, place) => {
    const answer = cli(...args);
    expect(answer.code).toBe(2);
    expect(errorOf(answer.lines)).toMatchObject({ code, path: place });
  });

  test('a scenario of an unknown aircraft, or with a wrong field, is refused with its place', () => {
    const base = { id: 'X', type: 'S7', events: [], duration_s: 1, outcomes: [] };
    const two = { scenarios: [{ ...base, type: 'Q1' }, base] };
    const answer = cli('sim', '--scenario', file('a.json', JSON.stringify(two)));
    expect(answer.code).toBe(2);
    expect(errorOf(answer.lines).code).toBe('UNKNOWN_AIRCRAFT');
    expect(answer.lines[1]).toEqual({ id: 'X', checks: [] });
    expect(answer.lines[2]!['error']).toMatchObject({ code: 'SOME_REFUSED' });
    expect(
      errorOf(cli('sim', '--scenario', file('b.json', JSON.stringify({ ...base, duration_s: 'long' }))).lines),
    ).toMatchObject({ code: 'BAD_FIELD', path: 'scenarios.0.duration_s' });
  });
});

describe('watch', () => {
  test('a recorded hot start is seen in its CSV', () => {
    const { code, lines } = cli('watch', '--type', 'S7', '--csv', csv);
    expect(code).toBe(0);
    expect(lines.find((l) => l['kind'] === 'abort')).toMatchObject({ reason: 'going-to-be-hot' });
  });

  test('one phase can be watched alone', () => {
    const { lines } = cli('watch', '--type', path.join(ROOT, 'aircraft/skerry-s7'), '--csv', csv, '--phase', 'start');
    expect(lines.some((l) => l['kind'] === 'exceedance')).toBe(true);
    expect(lines.some((l) => l['kind'] === 'phase')).toBe(false);
  });

  test('a CSV that makes no sense is refused with its row', () => {
    const { code, lines } = cli('watch', '--type', 'S7', '--csv', file('bad.csv', 't_s,ng.1_pct\n0,1\n0,2\n'));
    expect(code).toBe(2);
    expect(errorOf(lines).path).toContain('row 3');
  });
});

describe('watch --mapping', () => {
  const mapping = {
    separator: ';',
    decimal: ',',
    headerRows: 2,
    time: { format: 'clock', column: 0, rate_Hz: 1, start_s: 0 },
    columns: [
      { column: 1, channel: 'ng.1', unit: '%', scale: 1 },
      { column: 2, channel: 'tot.1', unit: '°F', scale: 1 },
    ],
  };
  /** the hot start as another recorder writes it: a clock, Fahrenheit, decimal commas */
  const foreign = (): string => {
    const column = (id: string): Float64Array => flown.trace.columns[skerry.channels.findIndex((c) => c.id === id)]!;
    const lines = ['Recorder 4', 'Time;Ng;TOT F'];
    flown.trace.t_s.forEach((t, i) => {
      const clock = new Date(t * 1000).toISOString().slice(11, 23).replace('.', ',');
      const figure = (v: number): string => v.toFixed(2).replace('.', ',');
      lines.push(`${clock};${figure(column('ng.1')[i]!)};${figure(column('tot.1')[i]! * 1.8 + 32)}`);
    });
    return lines.join('\n');
  };

  test('reads what another recorder wrote, without fuel and starter, and finds the hot start', () => {
    const { code, lines } = cli('watch', '--type', 'S7', '--csv', file('foreign.csv', foreign()), '--mapping', file('m.json', JSON.stringify(mapping))); // oxfmt-ignore
    expect(code).toBe(0);
    const abort = lines.find((l) => l['kind'] === 'abort');
    expect(['going-to-be-hot', 'hot']).toContain(abort?.['reason']);
  });

  test('refuses a bad row, a mapping that lacks a unit, and one that is none, each with its place', () => {
    const csvOf = file('f.csv', foreign());
    const asked = (m: object, source = csvOf) => cli('watch', '--type', 'S7', '--csv', source, '--mapping', file('bad-m.json', JSON.stringify(m))); // oxfmt-ignore
    const badRow = asked(
      mapping,
      file('broken.csv', 'a\nTime;Ng;TOT\n00:00:00;1;300\n00:00:01;x;300\n00:00:02;1;300\n'),
    );
    expect(badRow.code).toBe(2);
    expect(errorOf(badRow.lines)).toMatchObject({ code: 'BAD_CSV', path: 'row 4, Ng' });
    const noUnit = asked({ ...mapping, columns: [{ column: 1, channel: 'tot.1', unit: '', scale: 1 }] });
    expect(errorOf(noUnit.lines)).toMatchObject({ code: 'BAD_MAPPING' });
    expect(errorOf(asked({ ...mapping, decimal: '#' }).lines)).toMatchObject({ code: 'BAD_FIELD' });
  });
});

describe('type', () => {
  const folder = path.join(ROOT, 'aircraft/skerry-s7');

  test('build gives canonical JSON with its digest, the same however it is named', () => {
    const out = file('s7.json', '');
    const built = cli('type', 'build', 'skerry-s7', '--out', out);
    expect(built).toMatchObject({ code: 0, lines: [{ ok: true, id: 'S7', digest: expect.stringMatching(/^[0-9a-f]{64}$/) }] }); // oxfmt-ignore
    expect(JSON.parse(readFileSync(out, 'utf8'))).toEqual(skerry);
    expect(cli('type', 'build', folder).lines[0]!['digest']).toBe(built.lines[0]!['digest']);
  });

  test('a new type is like another, is changed, checked by flying it, compared, handed on and read again', () => {
    const place = path.join(dir, 'larch');
    expect(cli('type', 'new', place, '--like', 'corrie-c5').code).toBe(0);
    expect(errorOf(cli('type', 'new', place, '--like', 'corrie-c5').lines)).toMatchObject({ code: 'EXISTS' });
    const wind = path.join(place, 'wind.yaml');
    writeFileSync(wind, readFileSync(wind, 'utf8').replace('gust_spread: 15', 'gust_spread: 12'));
    expect(cli('type', 'check', place)).toMatchObject({ code: 0, lines: [{ ok: true, id: 'larch', flown: 8 }] });
    const changes = cli('type', 'diff', 'C5', place).lines;
    expect(changes).toContainEqual({ path: ['wind', 'rotor_kt', 'gust_spread'], before: '15', after: '12' });
    const zip = path.join(dir, 'larch.zip');
    expect(cli('type', 'export', place, zip).code).toBe(0);
    expect(cli('type', 'import', zip, `${place}-again`).code).toBe(0);
    expect(readFileSync(path.join(`${place}-again`, 'wind.yaml'), 'utf8')).toBe(readFileSync(wind, 'utf8'));
  });

  test('every problem is listed with file, line, column and remedy', () => {
    const place = path.join(dir, 'wrong');
    cli('type', 'new', place, '--like', 'skerry-s7');
    const limits = path.join(place, 'limits.csv');
    writeFileSync(limits, readFileSync(limits, 'utf8').replace('start,above,770', 'start,over,770'));
    const { code, lines } = cli('type', 'build', place);
    expect(code).toBe(2);
    expect(errorOf(lines).message).toBe('limits.csv:3:25 a limit is not passed "over"; write above or below');
  });

  test('what an audit finds is said with its place', () => {
    const place = path.join(dir, 'blind');
    cli('type', 'new', place, '--like', 'skerry-s7');
    const channels = path.join(place, 'channels.csv');
    writeFileSync(channels, readFileSync(channels, 'utf8').replace(',e1.ng,', ',e7.ng,'));
    const { code, lines } = cli('type', 'check', place, '--quick');
    expect(code).toBe(2);
    expect(errorOf(lines).message).toContain('channels.csv:3:');
    expect(errorOf(lines).message).toContain('the simulator has no signal named e7.ng');
  });

  test('a released version is kept, and is not changed under its number', () => {
    const place = path.join(dir, 'fir');
    const kept = path.join(dir, 'released');
    cli('type', 'new', place, '--like', 'tarn-t2');
    expect(cli('type', 'release', place, '--out', kept)).toMatchObject({ code: 0, lines: [{ ok: true, version: 1 }] });
    const wind = path.join(place, 'wind.yaml');
    writeFileSync(wind, readFileSync(wind, 'utf8').replace('gust_spread: 15', 'gust_spread: 12'));
    const again = cli('type', 'release', place, '--out', kept);
    expect(again.code).toBe(2);
    expect(errorOf(again.lines)).toMatchObject({ code: 'RELEASED', message: expect.stringContaining('another version') }); // oxfmt-ignore
  });

  test('what is no folder, and a zip that leads elsewhere, are refused', () => {
    expect(errorOf(cli('type', 'build', '/nowhere').lines)).toMatchObject({ code: 'NO_FOLDER' });
    const zip = file('out.zip', '');
    writeFileSync(zip, zipSync({ '../../escape.yaml': new Uint8Array(3) }));
    const into = path.join(dir, 'into');
    expect(errorOf(cli('type', 'import', zip, into).lines)).toMatchObject({ code: 'BAD_ZIP' });
    expect(existsSync(into)).toBe(false);
  });

  test('schema is a JSON Schema of one file', () => {
    expect(cli('type', 'schema', 'procedure/start.yaml').lines[0]).toMatchObject({ type: 'object' });
    expect(errorOf(cli('type', 'schema', 'nothing.yaml').lines)).toMatchObject({ code: 'NO_FILE' });
  });
});

const RUN = '0193a000-0000-7000-8000-0000000000aa';

describe('run verify', () => {
  const { entries } = flown;
  const text = writeBundle(
    {
      id: RUN,
      tail: 'QV-SKY',
      pilot: 'M. Aske',
      openedAt: '2026-11-25T08:00:00.000Z',
    },
    skerry,
    entries,
    flown.trace,
  );

  test('accepts a bundle and rejects it after one changed character', () => {
    expect(cli('run', 'verify', file('good.json', text)).code).toBe(0);
    const at = text.indexOf('Papers');
    const { code, lines } = cli('run', 'verify', file('bad.json', `${text.slice(0, at)}p${text.slice(at + 1)}`));
    expect(code).toBe(2);
    expect(errorOf(lines).code).toBe('digest');
  });
});

describe('calc', () => {
  test('one calculator, its result or its refusal', () => {
    const good = cli('calc', 'density_altitude', '{"pa_ft":2000,"oat_C":30,"dew_C":20}');
    expect(good.code).toBe(0);
    expect(good.lines[0]!['da_ft']).toBeCloseTo(4473.86, 1);
    const wrong = cli('calc', 'density_altitude', '{"pa_ft":2000,"oat_C":30,"dew_C":40}');
    expect(wrong.code).toBe(2);
    expect(errorOf(wrong.lines)).toMatchObject({ code: 'INCONSISTENT', path: 'dew_C' });
    expect(errorOf(cli('calc', 'horoscope', '{}').lines).message).toMatch(/there is .*density_altitude/);
    expect(cli('calc', 'density_altitude', 'not json').code).toBe(2);
    expect(cli('calc').code).toBe(2);
  });

  test('a batch answers line by line, in order, and a bad line does not end it', () => {
    const input = [
      { fn: 'isa', input: { h_m: 0 } },
      { fn: 'isa', input: { h_m: 99_000 } },
      { fn: 'convert', input: { value: 100, from: 'kg', to: 'lb' } },
    ];
    const { stdout, status } = spawnSync(process.execPath, [path.join(ROOT, 'cli/dist/main.js'), 'calc', '--batch'], {
      encoding: 'utf8',
      input: input.map((l) => JSON.stringify(l)).join('\n'),
    });
    const lines = stdout.trim().split('\n').map((l) => JSON.parse(l) as Record<string, unknown>); // oxfmt-ignore
    expect(status).toBe(0);
    expect(lines).toHaveLength(3);
    expect(lines[0]!['p_Pa']).toBeCloseTo(101_325, 6);
    expect(lines[1]).toMatchObject({ error: 'OUT_OF_DOMAIN', field: 'h_m' });
    expect(lines[2]!['value']).toBeCloseTo(220.462, 3);
  });
});
