/** The made-up operator of the demo, until accounts come. */
export const DEMO = {
  operatorId: '0193a000-0000-7000-8000-000000000001',
  operator: 'Varra Air Rescue and Training',
  place: 'Varra heliport, 61 ft',
  personId: '0193a000-0000-7000-8000-000000000011',
  person: 'M. Aske',
  role: 'pilot',
  /** the aircraft that the stand-in is wired to */
  aircraftId: '0193a000-0000-7000-8000-000000000021',
  tail: 'QV-SKY',
  pad: 'pad 2, Varra',
  deviceId: '0193a000-0000-7000-8000-000000000031',
} as const;

const HELIPORT = { site: 'Varra', elev_ft: 61, variation_E_deg: -3 };

/** Four pads of the heliport, its apron, and the hill site. */
export const PADS = [
  { pad: 'pad 1, Varra', ...HELIPORT, x_m: 0, y_m: 0 },
  { pad: 'pad 2, Varra', ...HELIPORT, x_m: 42, y_m: 0 },
  { pad: 'pad 3, Varra', ...HELIPORT, x_m: 84, y_m: 0 },
  { pad: 'pad 4, Varra', ...HELIPORT, x_m: 150, y_m: 10 },
  { pad: 'apron, Varra', ...HELIPORT, x_m: 20, y_m: 70 },
  { pad: 'hill site', site: 'Hill site', elev_ft: 2270, variation_E_deg: -3, x_m: 0, y_m: 0 },
] as const;

/** Tails that have a past, and how many starts of it for each start of the first. */
export const PASTS = [
  { tail: DEMO.tail, share: 1 },
  { tail: 'QV-TRN', share: 0.2 },
  { tail: 'QV-ERN', share: 0.2 },
] as const;

/** The six tails. */
export const FLEET = [
  { aircraftId: '0193a000-0000-7000-8000-000000000022', tail: 'QV-TRN', typeId: 'T2', pad: 'pad 1, Varra' },
  { aircraftId: '0193a000-0000-7000-8000-000000000023', tail: 'QV-INJ', typeId: 'T2i', pad: 'apron, Varra' },
  { aircraftId: '0193a000-0000-7000-8000-000000000024', tail: 'QV-COR', typeId: 'C5', pad: 'hill site' },
  { aircraftId: DEMO.aircraftId, tail: DEMO.tail, typeId: 'S7', pad: DEMO.pad },
  { aircraftId: '0193a000-0000-7000-8000-000000000025', tail: 'QV-ERN', typeId: 'H9', pad: 'pad 3, Varra' },
  { aircraftId: '0193a000-0000-7000-8000-000000000026', tail: 'QV-STR', typeId: 'X14', pad: 'pad 4, Varra' },
] as const;
