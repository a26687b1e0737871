import { expect, test } from 'vitest';
import { allowedToday } from '@rouse/core/brief';
import { fleet } from '../fleet.ts';
import { contextOf, inputOf, REPORT } from '../desk.ts';

test('without a report of its site nothing is borrowed: wind and power are unknown, and nothing is said to hold it', () => {
  for (const { id } of fleet) {
    const allows = allowedToday(contextOf(id), null, inputOf(id));
    expect(allows, id).toMatchObject({ oat_C: null, rotorWind: { nearness: 'unknown', used: null }, power: { nearness: 'unknown', used: null } }); // oxfmt-ignore
    expect(allows.objections.filter((o) => o.severity === 'no-go'), id).toEqual([]);
  }
}); // oxfmt-ignore

test('a report is turned to the nose of the last brief; without one the side is unknown', () => {
  const known = allowedToday(contextOf('S7'), REPORT, inputOf('S7', { heading_deg: 60 }));
  expect(known.rotorWind.words).toMatch(/^21 of \d+ kt, tail$/);
  expect(known.heading_deg).toBe(60);
  const never = allowedToday(contextOf('S7'), REPORT, null);
  expect(never.rotorWind.nearness).toBe('unknown');
  expect(never.objections.map((o) => o.id)).not.toContain('wind');
});

test('a gale holds it, in the words of the brief', () => {
  const gale = allowedToday(contextOf('S7'), 'METAR QXVA 250830Z 24055G70KT 9999 BKN022 03/01 Q1008=', inputOf('S7'));
  expect(gale.rotorWind.nearness).toBe('past');
  expect(gale.objections.find((o) => o.id === 'wind')).toMatchObject({ severity: 'no-go' });
});

test('only a twin has something to hold when an engine is lost', () => {
  const said = fleet.map((type) => {
    const { engineOut } = allowedToday(contextOf(type.id), REPORT, inputOf(type.id));
    return [type.engines.length > 1, /holds|comes down/.test(engineOut?.words ?? '')];
  });
  for (const [isTwin, isSaid] of said) expect(isSaid).toBe(isTwin);
});
