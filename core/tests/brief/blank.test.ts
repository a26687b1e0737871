import { BLANK, libraryIn, readFolder } from '@rouse/aircraft';
import { compileType } from '@rouse/core/authoring';
import { briefOf, contextAlone, emptyBrief, weightCurves } from '@rouse/core/brief';
import { passage, powerNow, reduceRun, sayPower, scheduleOf } from '@rouse/core/procedure';
import { describe, expect, test } from 'vitest';

const { type: compiled, problems } = compileType(readFolder(`aircraft/${BLANK}`)!, libraryIn('aircraft'));
const type = compiled!;
const site = { name: 'Varra', elev_ft: 60, variation_E_deg: 0 };
const day = {
  ...emptyBrief(type),
  oat_C: 15,
  qnh_hPa: 1013,
  heading_deg: 30,
  fuel_kg: 40,
  wind: { direction_deg: 30, from_deg: null, to_deg: null, speed_kt: 8, gust_kt: null },
};

describe('a type that is begun from nothing', () => {
  test('is whole, so that a run by hand can be begun', () => {
    expect(problems).toEqual([]);
    expect(passage(type, reduceRun([]))[0]).toMatchObject({ id: 'before-start' });
    expect(scheduleOf(type, reduceRun([])).ready_s).toBeGreaterThan(0);
  });

  test('says of everything that nobody has written that it is unknown or refused, in words', () => {
    const brief = briefOf(
      day,
      contextAlone({ type, tail: 'QV-NEW', pad: 'pad 9', site, now: '2026-06-01T08:00:00.000Z' }),
    );
    for (const figure of [brief.hoverIge, brief.hoverOge, brief.topLimit, brief.mcpLimit, brief.battery])
      expect(figure.state).not.toBe('known');
    expect(brief.battery).toMatchObject({ words: 'the battery is not described in this type' });
    expect(brief.clear).toBe(false);
    expect(JSON.stringify(brief)).not.toMatch(/NaN|Infinity|undefined/);
    expect(weightCurves(type, 60, 15, 'none')).toBeNull();
    const state = { ...reduceRun([]), brief: brief.record };
    expect(sayPower(powerNow(type, state, null, 0))).toMatchObject({ hovers: null });
  });
});
