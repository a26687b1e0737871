import { auditFlight, auditType, collect, flightsOf } from '@rouse/core/audit';
import { expect, test } from 'vitest';
import { seventhType } from '../seventh.ts';
import { fleet } from '../fleet.ts';

const seventh = seventhType();

test('it has no channel, item, caption, leg or watch of a shipped type', () => {
  const idsOf = (type: (typeof fleet)[number]): string[] => [
    ...type.channels.map((c) => `channel ${c.id}`),
    ...type.items.map((i) => `item ${i.id}`),
    ...type.captions.list.map((c) => `caption ${c.id}`),
    ...type.legs.map((l) => `leg ${l.id}`),
    ...type.startWatches.map((w) => `watch ${w.id}`),
  ];
  const shipped = new Set(fleet.flatMap(idsOf));
  expect(idsOf(seventh).filter((id) => shipped.has(id))).toEqual([]);
});

test('nothing is found wrong with it, and its list is flown to the end of the shut-down', () => {
  expect(auditType(seventh)).toEqual([]);
  expect(collect((report) => auditFlight(seventh, flightsOf(seventh)[0]!, report))).toEqual([]);
});
