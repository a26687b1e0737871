import { bandEdge, type TypeFile, type StartWatch } from '../aircraft/index.ts';

/** What an engineer did to an aircraft that lets its figures begin anew. */
export const MAINTENANCE = ['battery', 'wash', 'unit', 'other'] as const;
export type Maintenance = (typeof MAINTENANCE)[number];
export const MAINTENANCE_WORDS: Readonly<Record<Maintenance, string>> = {
  battery: 'battery changed',
  wash: 'compressor washed',
  unit: 'unit replaced',
  other: 'other work',
};

/** What part of the aircraft a sign speaks of: signs of one part that move together are one finding. */
export type Part = 'gas-path' | 'ignition' | 'acceleration' | 'battery' | 'bearing' | 'magnetos' | 'other';

/** One figure that is followed from run to run. */
export interface Sign {
  /** of the starts: "watch/figure"; of the battery: "battery/figure"; of a check: "check/figure" */
  id: string;
  label: string;
  unit: string;
  decimals: number;
  worse: 'high' | 'low' | 'either';
  part: Part;
  /** 0 for what all engines share */
  engine: number;
  /** values on the worse side from which it is no longer good, from mild to severe, each with its source */
  limits: readonly { at: number; severity: 'caution' | 'warning'; words: string }[];
  /** a smaller move is no finding, however sure it is, in the unit of the sign */
  notable: number;
  /** maintenance after which it begins anew */
  renewedBy: readonly Maintenance[];
  source:
    | { of: 'start'; watch: string; feature: string }
    | { of: 'battery'; feature: 'voltsDip_V' | 'resistance' }
    | { of: 'check'; check: string; figure: string };
}

const REPLACE = 2;
const WATCH_IT = 1.5;
/** a battery that has lost so much of what it was is worth a look */
const RESISTANCE_SHARE = 0.2;
const VOLTS_SHARE = 0.04;
/** of what is good on both sides of a figure, or from nothing to its edge */
const FIGURE_SHARE = 0.25;
const ASSURANCE_C = 8;

/** Every sign of a type that can be followed, in the order in which they are shown. */
export function signsOf(type: TypeFile): Sign[] {
  const several = type.engines.length > 1;
  const starts = type.startWatches.flatMap((w) =>
    startSigns(type, w, several || w.engine === 0 ? ` ${nameOf(w)}` : ''),
  );
  return [...starts, ...batterySigns(type), ...checkSigns(type)];
}

const nameOf = ({ engine }: StartWatch): string => (engine === 0 ? 'auxiliary unit' : String(engine));

function startSigns(type: TypeFile, watch: StartWatch, of: string): Sign[] {
  const sign = (feature: string, more: Pick<Sign, 'label' | 'unit' | 'decimals' | 'part' | 'renewedBy' | 'limits' | 'notable'>): Sign => ({
    ...more,
    id: `${watch.id}/${feature}`,
    worse: 'high',
    engine: watch.engine,
    source: { of: 'start', watch: watch.id, feature },
  }); // oxfmt-ignore
  const fires = sign('lightOff_s', {
    label: watch.kind === 'piston' ? `Seconds to fire${of}` : `Light-off${of}`,
    notable: watch.kind === 'piston' ? 2 : 0.8,
    unit: 's',
    decimals: 1,
    part: 'ignition',
    renewedBy: ['unit', 'other'],
    limits:
      watch.kind === 'piston'
        ? [{ at: watch.duty.on_s[0]!, severity: 'warning', words: `starter ${watch.duty.on_s[0]!} s` }]
        : [],
  });
  if (watch.kind === 'piston') return [fires];
  const peak = sign('peak_C', {
    label: `Peak temperature${of}`,
    notable: 8,
    unit: '°C',
    decimals: 0,
    part: 'gas-path',
    renewedBy: ['wash', 'unit', 'other'],
    limits: startBands(type, watch.channels.temperature),
  });
  const idle = sign('idle_s', {
    label: `To idle${of}`,
    notable: 2,
    unit: 's',
    decimals: 1,
    part: 'acceleration',
    renewedBy: ['wash', 'unit', 'other'],
    limits: [{ at: watch.idleWithin_s, severity: 'warning', words: `stopped after ${watch.idleWithin_s} s` }],
  });
  return [peak, fires, idle];
}

/** The time-limited band that a start may enter, and what it must never pass. */
function startBands(type: TypeFile, channel: string): Sign['limits'] {
  const bands = type.limits.find((l) => l.channel === channel && l.phases.includes('start'))?.bands ?? [];
  const [first] = bands;
  const last = bands.at(-1);
  if (!first || !last) return [];
  return [
    { at: bandEdge(first), severity: 'caution', words: `${first.forSeconds} s above ${bandEdge(first)}` },
    ...(last === first ? [] : [{ at: bandEdge(last), severity: 'warning' as const, words: `never above ${bandEdge(last)}` }]),
  ]; // oxfmt-ignore
}

function batterySigns(type: TypeFile): Sign[] {
  const battery = type.thermal?.battery;
  const base = { engine: 0, part: 'battery', renewedBy: ['battery', 'other'] } as const;
  const volts: Sign = {
    ...base,
    id: 'battery/voltsDip_V',
    label: 'Volts dip',
    notable: VOLTS_SHARE * (battery?.voc_ref_V ?? 24),
    unit: 'V',
    decimals: 1,
    worse: 'low',
    limits: battery
      ? [{ at: battery.vmin_limit_V, severity: 'warning', words: `least ${battery.vmin_limit_V} V` }]
      : [],
    source: { of: 'battery', feature: 'voltsDip_V' },
  };
  const electric = type.startWatches.some((w) =>
    type.channels.some((c) => c.id === w.starter.channel && c.unit === 'A'),
  );
  if (!battery || !electric) return [volts];
  const { r_ref_mohm, t_ref_C } = battery;
  return [
    volts,
    {
      ...base,
      id: 'battery/resistance',
      label: `Battery, at ${t_ref_C} °C`,
      notable: RESISTANCE_SHARE * r_ref_mohm,
      unit: 'mΩ',
      decimals: 1,
      worse: 'high',
      limits: [
        { at: WATCH_IT * r_ref_mohm, severity: 'caution', words: `${WATCH_IT} times new` },
        { at: REPLACE * r_ref_mohm, severity: 'warning', words: `${REPLACE} times new: replace` },
      ],
      source: { of: 'battery', feature: 'resistance' },
    },
  ];
}

function checkSigns(type: TypeFile): Sign[] {
  const seen = new Set<string>();
  return type.items.flatMap((item) => {
    const trace = item.kind === 'measure' ? item.trace : undefined;
    return (trace?.figures ?? []).flatMap((f): Sign[] => {
      const id = `${trace!.check}/${f.id}`;
      if (f.trended !== true || seen.has(id)) return [];
      seen.add(id);
      const [low, high] = f.good;
      const worse = low !== null && high !== null ? 'either' : low !== null ? 'low' : 'high';
      const edge = worse === 'low' ? low : high;
      const span = worse === 'either' ? high! - low! : Math.abs(edge ?? 0);
      return [
        {
          id,
          label: f.label,
          unit: f.unit,
          decimals: Math.max(1, f.decimals),
          worse,
          notable: f.of === 'assurance' ? ASSURANCE_C : Math.max(FIGURE_SHARE * span, 10 ** -f.decimals),
          part: f.of === 'assurance' ? 'gas-path' : f.of === 'time-to' ? 'bearing' : f.of === 'change' ? 'magnetos' : 'other',
          engine: Number(/-(\d)$/.exec(f.id)?.[1] ?? (type.engines.length === 1 ? 1 : 0)),
          limits: edge === null ? [] : [{ at: edge, severity: 'caution', words: `good ${worse === 'low' ? 'from' : 'to'} ${edge} ${f.unit}`.trim() }],
          renewedBy: f.of === 'assurance' ? ['wash', 'unit', 'other'] : ['unit', 'other'],
          source: { of: 'check', check: trace!.check, figure: f.id },
        },
      ];
    });
  }); // oxfmt-ignore
}
