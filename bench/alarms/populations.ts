import type { WatchedType } from '@rouse/core/aircraft';
import type { Conditions, ManualPilotPlan, NormalSource } from '@rouse/core/simulator';

/** One day, one battery, one engine and one hand to start with. */
export interface Circumstances {
  conditions: Conditions;
  /** what is switched on, or worn, beforehand */
  set: Record<string, number>;
  hand: ManualPilotPlan;
  /** noise of the sensors, times the type's own */
  noise: number;
  /** frames a second that the watch is given */
  rate_hz: number;
}

export const USUAL_HAND: ManualPilotPlan = {
  fuel_ng: 14.5,
  grip0: 0.22,
  target_c: 700,
  gain: 0.0006,
  lead_s: 1.5,
  open_rate: 0.03,
  close_rate: 0.06,
  delay_s: 0.4,
};

type Between = (low: number, high: number) => number;

/** Ordinary flying weather and an ordinary battery, oil and gearbox still lukewarm. */
function ordinary(between: Between): Circumstances {
  return {
    conditions: {
      env: { oat_c: between(4, 20), headwind_kt: between(0, 10) },
      soc: between(0.8, 0.95),
      batt_age: between(1, 1.3),
      oil_temp_c: 40,
      mgb_temp_c: 40,
    },
    set: {},
    hand: USUAL_HAND,
    noise: 1,
    rate_hz: 50,
  };
}

function air(c: Circumstances, env: NonNullable<Conditions['env']>): void {
  c.conditions.env = { ...c.conditions.env, ...env };
}

function secondFlight(c: Circumstances, between: Between, type: WatchedType): void {
  c.conditions.residual_c = between(70, residualGate_C(type) - 15);
  c.conditions.oil_temp_c = between(50, 75);
  c.conditions.mgb_temp_c = between(45, 70);
}

/** the hottest residual that the type allows before the starter, or the fuel */
function residualGate_C(type: WatchedType): number {
  const spec = type.startWatches.find((w) => w.engine === 1)!;
  const temperature = spec.kind === 'turbine' ? spec.channels.temperature : '';
  for (const { condition } of spec.gates)
    if ('channel' in condition && condition.channel === temperature && 'atMost' in condition) return condition.atMost;
  return 150;
}

function night(c: Circumstances, type: WatchedType): void {
  const simulator = type.simulator as { electrical?: { loads_a: Record<string, number> } };
  for (const load of Object.keys(simulator.electrical?.loads_a ?? {}))
    if (/light|heat|blower/.test(load)) c.set[`load.${load}`] = 1;
}

function worn(c: Circumstances, between: Between, type: WatchedType): void {
  for (const { engine } of type.startWatches) {
    if (engine === 0) continue;
    c.set[`fault.e${engine}.comp_eff`] = between(0.97, 0.98);
    c.set[`fault.e${engine}.turb_eff`] = between(0.97, 0.98);
  }
}

function anyHand(c: Circumstances, between: Between): void {
  c.hand = {
    ...USUAL_HAND,
    fuel_ng: between(13, 16.5),
    grip0: between(0.2, 0.24),
    delay_s: between(0.3, 0.7),
    target_c: between(680, 720),
  };
}

/** Populations of good starts, each by what differs from ordinary. */
export const POPULATIONS: Readonly<Record<string, (c: Circumstances, between: Between, type: WatchedType) => void>> = {
  ordinary: () => undefined,
  'noise x2': (c) => (c.noise = 2),
  '4 Hz': (c) => (c.rate_hz = 4),
  '1 Hz': (c) => (c.rate_hz = 1),
  air: (c, between) => air(c, { oat_c: between(-25, 45) }),
  altitude: (c, between) => air(c, { pa_m: between(0, 3048) }),
  tailwind: (c, between) => air(c, { headwind_kt: -between(0, 15) }),
  'cold-soaked': (c) => {
    c.conditions.oil_temp_c = c.conditions.mgb_temp_c = c.conditions.env!.oat_c!;
  },
  charge: (c, between) => (c.conditions.soc = between(0.5, 1)),
  'second flight': secondFlight,
  night: (c, between, type) => {
    air(c, { oat_c: between(4, 12) });
    night(c, type);
  },
  worn,
  hand: anyHand,
  everything: (c, between, type) => {
    air(c, { oat_c: between(-25, 45), pa_m: between(0, 3048), headwind_kt: between(-15, 15) });
    c.conditions.soc = between(0.5, 1);
    c.conditions.batt_age = between(1, 1.4);
    c.conditions.oil_temp_c = c.conditions.mgb_temp_c = c.conditions.env!.oat_c!;
    if (between(0, 1) < 0.4) secondFlight(c, between, type);
    if (between(0, 1) < 0.4) night(c, type);
    worn(c, between, type);
    anyHand(c, between);
  },
  'a year': (c, between, type) => {
    air(c, { oat_c: between(-8, 32), pa_m: between(0, 1200), headwind_kt: between(-8, 15) });
    if (between(0, 1) < 1 / 3) secondFlight(c, between, type);
  },
};

export type Population = string;

/** One start's circumstances drawn from a population. */
export function drawFrom(population: Population, type: WatchedType, chance: NormalSource): Circumstances {
  const between: Between = (low, high) => low + (high - low) * chance.uniform();
  const drawn = ordinary(between);
  POPULATIONS[population]!(drawn, between, type);
  return drawn;
}
