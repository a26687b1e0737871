/** The made-up operator of the demo, until accounts come. */
export const DEMO = {
  operatorId: '0193a000-0000-7000-8000-000000000001',
  operator: 'Varra Air Rescue and Training',
  place: 'Varra heliport, 61 ft',
  personId: '0193a000-0000-7000-8000-000000000011',
  person: 'M. Aske',
  role: 'pilot',
  aircraftId: '0193a000-0000-7000-8000-000000000021',
  tail: 'QV-SKY',
  pad: 'pad 2, Varra',
  deviceId: '0193a000-0000-7000-8000-000000000031',
} as const;
