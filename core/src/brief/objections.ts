import type { TypeFile } from '../aircraft/index.ts';
import { type HeldEntry, sayEntry } from '../procedure/index.ts';
import type { BriefFigures, Objection } from './result.ts';
import { known } from './figure.ts';
import type { BriefInput } from './input-schema.ts';
import { type BriefContext, operatorWay } from './input.ts';

/** Everything that speaks against beginning, no-go first. */
export function objectionsOf(input: BriefInput, context: BriefContext, brief: BriefFigures): Objection[] {
  const objections = [
    ...recordObjections(context),
    ...dueObjections(context),
    ...equipmentObjections(input, context),
    ...hoursObjections(context),
    ...conditionObjections(context, brief),
    ...loadObjections(brief),
    ...powerObjections(context, brief),
    ...washObjections(brief),
    ...turnRoundObjections(input, context, brief),
    ...wayObjections(input, context),
  ];
  return objections.toSorted((a, b) => Number(b.severity === 'no-go') - Number(a.severity === 'no-go'));
}

const noGo = (id: string, title: string, words: string): Objection => ({ id, severity: 'no-go', title, words });
const caution = (id: string, title: string, words: string): Objection => ({ id, severity: 'caution', title, words });

function recordObjections({ openExceedances, type }: BriefContext): Objection[] {
  return openExceedances.map((entry) => ({
    id: `exceedance-${entry.run}-${entry.seq}`,
    severity: 'no-go',
    title: 'An exceedance is open',
    words: `${describe(type, entry)}. An engineer who has looked releases it, by name, before the next start.`,
    exceedance: { run: entry.run, seq: entry.seq },
  }));
}

/** What is past holds it where the engineer said so; what nobody can reckon is never good. */
function dueObjections({ due }: BriefContext): Objection[] {
  return due.flatMap(({ title, words, state, holds }): Objection[] => {
    const id = `due-${title}`;
    if (state === 'soon') return [];
    if (state === 'unknown') return [(holds ? noGo : caution)(id, `${title}: due, or not`, `It is not known when: ${words}.`)];
    return [(holds ? noGo : caution)(id, `${title} is due`, `${words}. An engineer writes down that it was done.`)];
  }); // oxfmt-ignore
}

function describe(type: TypeFile, entry: HeldEntry): string {
  const { title, detail } = sayEntry(type, entry)!;
  return `${entry.at.slice(0, 16).replace('T', ' ')} UTC: ${title} ${detail}`;
}

function equipmentObjections({ missing }: BriefInput, { type, defects }: BriefContext): Objection[] {
  const unlisted = defects.filter((d) => !type.equipment.some((e) => e.id === d.equipment));
  const listed = type.equipment.flatMap((e): Objection[] => {
    const open = defects.filter((d) => d.equipment === e.id);
    if (open.length === 0 && !missing.includes(e.id)) return [];
    const without = e.forbids === undefined ? e.why : `${e.why} Without it: no ${e.forbids}.`;
    return [
      {
        id: `missing-${e.id}`,
        severity: e.failure,
        title: open.length > 0 ? `${e.label}: a defect is open` : `${e.label} missing`,
        words: [...open.map((d) => `${d.words}.`), without].join(' '),
      },
    ];
  });
  // what it means is not known, and unknown is never good
  const unknown = unlisted.map(
    (d) =>
    noGo(`missing-${d.equipment}`, 'A defect is open', `${d.words}. This version of the type does not list ${d.equipment}; an engineer closes it.`), // oxfmt-ignore
  );
  return [...listed, ...unknown];
}

/** A place that is closed at the hour of the start; hours may run past midnight. */
function hoursObjections({ site, now }: BriefContext): Objection[] {
  if (!site.hours) return [];
  const { opens, closes } = site.hours;
  const at = now.slice(11, 16);
  const isOpen = opens <= closes ? at >= opens && at < closes : at >= opens || at < closes;
  if (isOpen) return [];
  return [caution('hours', `${site.name} is closed`, `Open from ${opens} to ${closes} UTC; it is ${at} UTC.`)];
}

function conditionObjections({ type, now }: BriefContext, brief: BriefFigures): Objection[] {
  const objections: Objection[] = [];
  if (brief.age_min === null)
    objections.push(
      caution('conditions', 'No time of observation', 'Paste a report, or enter when the day was observed.'),
    );
  else if (brief.age_min > type.briefGoodFor_min)
    objections.push(
      caution(
        'expired',
        'Conditions are old',
        `Observed ${Math.round(brief.age_min)} minutes before ${now.slice(11, 16)} UTC; the operator allows ${type.briefGoodFor_min}.`,
      ),
    );
  else if (brief.age_min < -10)
    objections.push(
      caution('expired', 'Conditions lie ahead', 'The report is of a time to come: look at its day and hour.'),
    );
  const wind = known(brief.rotorStart);
  if (brief.rotorStart.state !== 'known')
    objections.push(noGo('wind', 'Wind not judged', `${brief.rotorStart.words}.`));
  else if (wind!.verdict === 'UNKNOWN')
    objections.push(noGo('wind', 'Wind unknown', 'The rotor is not started in a wind that nobody has read.'));
  else if (wind!.verdict === 'EXCEEDS')
    objections.push(
      noGo(
        'wind',
        'Wind outside the rotor’s limit',
        wind!.reasons.includes('GUST_SPREAD')
          ? `Gusts stand more than ${type.wind.rotor_kt.gust_spread} kt above the mean.`
          : `${Math.ceil(wind!.wind_kt!)} kt from ${quadrantWords(wind!.quadrants)}; the limit there is ${wind!.limit_kt}.`,
      ),
    );
  else if (wind!.verdict === 'CAUTION')
    objections.push(
      caution(
        'wind-near',
        'Wind close to the rotor’s limit',
        `${Math.ceil(wind!.wind_kt!)} kt from ${quadrantWords(wind!.quadrants)}; the limit there is ${wind!.limit_kt}.`,
      ),
    );
  const stop = known(brief.rotorStop);
  if (stop?.verdict === 'EXCEEDS' && wind?.verdict !== 'EXCEEDS')
    objections.push(
      caution('wind-stop', 'Not to be stopped in this wind', `The limit for stopping is ${stop.limit_kt} kt.`),
    );
  return objections;
}

const QUADRANTS = { HEAD: 'ahead', RIGHT: 'the right', TAIL: 'behind', LEFT: 'the left' } as const;
function quadrantWords(quadrants: readonly (keyof typeof QUADRANTS)[]): string {
  return quadrants.map((q) => QUADRANTS[q]).join(' or ') || 'any side';
}

function loadObjections(brief: BriefFigures): Objection[] {
  const objections: Objection[] = [];
  const { balance, landing, fuel, landingFuel_kg } = brief;
  if (balance.state === 'unknown') objections.push(caution('load', 'Weight unknown', `Not judged: ${balance.words}.`));
  else if (balance.state === 'refused') objections.push(noGo('load', 'Load not possible', `${balance.words}.`));
  else {
    const { ramp, takeoff, path_worst } = balance.value;
    const places = [
      [ramp.status, 'at start'],
      [takeoff.status, 'at lift'],
      [known(landing)?.ramp.status ?? 'INSIDE', 'at landing'],
    ] as const;
    const outside = places.filter(([status]) => status === 'OUTSIDE').map(([, where]) => where);
    if (outside.length > 0)
      objections.push(
        noGo('load', 'Load outside the envelope', `${outside.join(', ')}: move or leave something, then look again.`),
      );
    else if (path_worst.status === 'OUTSIDE')
      objections.push(
        caution(
          'load-later',
          'Leaves the envelope as fuel burns',
          `Outside from ${Math.round(path_worst.fuel_kg)} kg of fuel down.`,
        ),
      );
    else if (places.some(([status]) => status === 'NEAR_EDGE'))
      objections.push(caution('load-edge', 'Load close to the edge', 'Weigh what was estimated.'));
  }
  if (fuel.state === 'known' && fuel.value.status !== 'OK')
    objections.push(
      fuel.value.status === 'BELOW_RESERVE'
        ? caution('fuel', 'Fuel below the final reserve', `${Math.ceil(fuel.value.reserve_kg)} kg has to be left.`)
        : noGo('fuel', 'Not enough fuel for the ground', 'It would be gone before lift.'),
    );
  else if (fuel.state === 'known' && landingFuel_kg.state === 'refused')
    objections.push(noGo('fuel-flight', 'Not enough fuel for the flight', `${landingFuel_kg.words}.`));
  else if (fuel.state === 'known' && (known(landingFuel_kg) ?? Infinity) < fuel.value.reserve_kg)
    objections.push(
      caution(
        'fuel-flight',
        'The flight uses the final reserve',
        `${Math.ceil(fuel.value.reserve_kg)} kg has to be left at landing; ${Math.floor(known(landingFuel_kg)!)} kg would be.`,
      ),
    );
  return objections;
}

function powerObjections({ type }: BriefContext, brief: BriefFigures): Objection[] {
  const objections: Objection[] = [];
  const { hoverIge, hoverOge, battery } = brief;
  const unit = type.performance.chart.unit;
  if (hoverIge.state === 'refused')
    objections.push(noGo('power', 'No power figure', `${hoverIge.words}. Without it there is no lift.`));
  else if (hoverIge.state === 'unknown')
    objections.push(caution('power', 'Power unknown', `Not judged: ${hoverIge.words}.`));
  else if (hoverIge.value.margin < 0)
    objections.push(
      noGo('power', 'No hover at this weight', `${-hoverIge.value.margin} ${unit} short in ground effect.`),
    );
  else if (known(hoverOge) && known(hoverOge)!.margin < 0)
    objections.push(
      caution(
        'power-oge',
        'No hover out of ground effect',
        `${-known(hoverOge)!.margin} ${unit} short: no vertical departure.`,
      ),
    );
  const cold = known(battery);
  if (cold?.verdict === 'USE_GROUND_POWER')
    objections.push(
      caution(
        'battery',
        'Battery cold',
        `About ${cold.display.v_crank_V} V while cranking; use ground power or warm it.`,
      ),
    );
  return objections;
}

function washObjections({ wash }: BriefFigures): Objection[] {
  return wash
    .filter((w) => w.slow && w.clear === false)
    .map(({ neighbour, separation }) => {
      const value = known(separation);
      return caution(
        `wash-${neighbour.tail}`,
        `${neighbour.name} close, its rotor slow`,
        value?.distance_m === null
          ? 'The wind alone is already too much for its blades: wait.'
          : `It stands ${Math.floor(neighbour.distance_m)} m away; keep ${value!.display!.distance_m} m, wait, or lift away from it.`,
      );
    });
}

function turnRoundObjections(input: BriefInput, context: BriefContext, brief: BriefFigures): Objection[] {
  const { turnRound } = context.type;
  if (!turnRound || brief.ways['list'] !== 'turn-round') return [];
  const since = context.lastRunEndedAt;
  const unmet = turnRound.entry.filter((e) => {
    if (e.withinMinutes === undefined) return !input.turnRound.includes(e.id);
    return since === null || (Date.parse(context.now) - Date.parse(since)) / 60_000 > e.withinMinutes;
  });
  return unmet.map((e) =>
    noGo(`turn-round-${e.id}`, 'Short list not for this start', `${e.words}: not so, or not confirmed.`),
  );
}

/** A run may differ from the operator, with its reason. */
function wayObjections({ ways }: BriefInput, { type, operatorWays }: BriefContext): Objection[] {
  return type.choices
    .filter((c) => ways[c.id] && ways[c.id]!.to !== operatorWay(c, operatorWays) && ways[c.id]!.reason.trim() === '')
    .map((c) =>
      noGo(
        `way-${c.id}`,
        `${c.question}: why not as the operator does?`,
        'Enter the reason beside the way of working.',
      ),
    );
}
