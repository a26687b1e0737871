/** Kinds of figures that people measure in different units. Figures are kept in the first one, whatever is shown. */
export const UNIT_CHOICES = {
  temperature: ['C', 'F'],
  pressure: ['hPa', 'inHg'],
  mass: ['kg', 'lb'],
  volume: ['L', 'usgal'],
  height: ['ft', 'm'],
  wind: ['kt', 'km/h'],
} as const;
export type UnitKind = keyof typeof UNIT_CHOICES;
export type Units = { [K in UnitKind]: (typeof UNIT_CHOICES)[K][number] };

export const USUAL_UNITS: Units = {
  temperature: 'C',
  pressure: 'hPa',
  mass: 'kg',
  volume: 'L',
  height: 'ft',
  wind: 'kt',
};
