export type Magnetos = 'OFF' | 'R' | 'L' | 'BOTH' | 'START';

/** The cockpit of a piston trainer. */
export interface PistonControls {
  master: number;
  alt: number;
  starter: number;
  primer: number;
  boost: number;
  clutch: number;
  gov: number;
  fuel: number;
  mags: Magnetos;
  mix: number;
  grip: number;
  col: number;
  carbHeat: number;
  brake: number;
  /** 1: the hand holds the grip where it is put; 0: a light hand that the governor may move */
  hold: number;
  /** speed that the built-in pilot holds with the grip, a fraction; null when nobody does */
  pilotN: number | null;
}

export interface PistonFaults {
  magL: number;
  magR: number;
  groundL: number;
  groundR: number;
  retardL: number;
  retardR: number;
  sprag: 'ok' | 'slip' | 'sticking' | 'seized';
  stickTorque: number;
  spragCap: number;
  starterStuck: number;
  starterOpen: number;
  alternator: number;
  battR: number;
  govFail: number;
  govBias: number;
  /** how much more strongly the governor answers than it should: it hunts */
  govGain: number;
  beltMu: number;
  tension: number;
  actStopAt: number;
  actRate: number;
  oilLoss: number;
  oilPump: number;
  coolFan: number;
  primerFail: number;
  primerLeak: number;
  carbHeatFail: number;
  hornFail: number;
  idleAdj: number;
  mixtureRich: number;
  brakeDrag: number;
  chtBias: number;
  oilTBias: number;
  oilPBias: number;
  mapBias: number;
  tachEFail: number;
  tachRFail: number;
}

export function coldPistonControls(): PistonControls {
  return {
    master: 0,
    alt: 0,
    starter: 0,
    primer: 0,
    boost: 0,
    clutch: 0,
    gov: 0,
    fuel: 1,
    mags: 'OFF',
    mix: 0,
    grip: 0,
    col: 0,
    carbHeat: 0,
    brake: 0,
    hold: 1,
    pilotN: null,
  };
}

export function noPistonFaults(): PistonFaults {
  return {
    magL: 1,
    magR: 1,
    groundL: 0,
    groundR: 0,
    retardL: 0,
    retardR: 0,
    sprag: 'ok',
    stickTorque: 70,
    spragCap: 1,
    starterStuck: 0,
    starterOpen: 0,
    alternator: 1,
    battR: 1,
    govFail: 0,
    govBias: 0,
    govGain: 1,
    beltMu: 1,
    tension: 1,
    actStopAt: 9,
    actRate: 1,
    oilLoss: 0,
    oilPump: 1,
    coolFan: 1,
    primerFail: 0,
    primerLeak: 0,
    carbHeatFail: 0,
    hornFail: 0,
    idleAdj: 1,
    mixtureRich: 1,
    brakeDrag: 0,
    chtBias: 0,
    oilTBias: 0,
    oilPBias: 0,
    mapBias: 0,
    tachEFail: 0,
    tachRFail: 0,
  };
}
