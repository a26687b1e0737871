/** The made-up operator of the demo, and the pilot who flies most. */
export const DEMO = {
  operatorId: '0193a000-0000-7000-8000-000000000001',
  operator: 'Varra Air Rescue and Training',
  place: 'Varra heliport, 61 ft',
  personId: '0193a000-0000-7000-8000-000000000011',
  /** the aircraft that the stand-in is wired to */
  aircraftId: '0193a000-0000-7000-8000-000000000021',
  tail: 'QV-SKY',
  pad: 'pad 2, Varra',
  deviceId: '0193a000-0000-7000-8000-000000000031',
} as const;

/** Made-up people, one a role; the pilot flew the past. */
export const PEOPLE = [
  { personId: DEMO.personId, name: 'M. Aske', roles: ['pilot'] },
  { personId: '0193a000-0000-7000-8000-000000000012', name: 'T. Brae', roles: ['pilot', 'instructor'] },
  { personId: '0193a000-0000-7000-8000-000000000013', name: 'R. Vale', roles: ['engineer'] },
  { personId: '0193a000-0000-7000-8000-000000000014', name: 'L. Corran', roles: ['administrator'] },
] as const;

const ANYWHERE = { lat_deg: null, lon_deg: null, opens: null, closes: null };

/** The heliport and the hill site. */
export const SITES = [
  { site: 'Varra', elev_ft: 61, variation_E_deg: -3, ...ANYWHERE },
  { site: 'Hill site', elev_ft: 2270, variation_E_deg: -3, ...ANYWHERE },
] as const;

/** Four pads of the heliport, its apron, and the hill site. */
export const PADS = [
  { pad: 'pad 1, Varra', site: 'Varra', x_m: 0, y_m: 0 },
  { pad: 'pad 2, Varra', site: 'Varra', x_m: 42, y_m: 0 },
  { pad: 'pad 3, Varra', site: 'Varra', x_m: 84, y_m: 0 },
  { pad: 'pad 4, Varra', site: 'Varra', x_m: 150, y_m: 10 },
  { pad: 'apron, Varra', site: 'Varra', x_m: 20, y_m: 70 },
  { pad: 'hill site', site: 'Hill site', x_m: 0, y_m: 0 },
] as const;

/** What people are taken to weigh in the demo. */
export const STANDARD_MASSES = [
  { label: 'Pilot with helmet', mass_kg: 86 },
  { label: 'Passenger with bag', mass_kg: 92 },
  { label: 'Medical crew with pack', mass_kg: 98 },
] as const;

/** The six tails, each with its nose where it usually points, magnetic. */
export const FLEET = [
  {
    aircraftId: '0193a000-0000-7000-8000-000000000022',
    tail: 'QV-TRN',
    nose_deg: 210,
    typeId: 'T2',
    pad: 'pad 1, Varra',
  },
  {
    aircraftId: '0193a000-0000-7000-8000-000000000023',
    tail: 'QV-INJ',
    nose_deg: 330,
    typeId: 'T2i',
    pad: 'apron, Varra',
  },
  { aircraftId: '0193a000-0000-7000-8000-000000000024', tail: 'QV-COR', nose_deg: 280, typeId: 'C5', pad: 'hill site' },
  { aircraftId: DEMO.aircraftId, tail: DEMO.tail, nose_deg: 240, typeId: 'S7', pad: DEMO.pad },
  {
    aircraftId: '0193a000-0000-7000-8000-000000000025',
    tail: 'QV-ERN',
    nose_deg: 30,
    typeId: 'H9',
    pad: 'pad 3, Varra',
  },
  {
    aircraftId: '0193a000-0000-7000-8000-000000000026',
    tail: 'QV-STR',
    nose_deg: 150,
    typeId: 'X14',
    pad: 'pad 4, Varra',
  },
] as const;
