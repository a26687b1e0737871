import type { TypeFile } from '../aircraft/index.ts';
import { type HeldEntry, sayEntry } from '../procedure/index.ts';
import type { BriefFigures, Hold } from './result.ts';
import { known } from './figure.ts';
import { type BriefContext, type BriefInput, operatorWay } from './input.ts';

/** Everything that speaks against beginning, no-go first. */
export function holdsOf(input: BriefInput, context: BriefContext, brief: BriefFigures): Hold[] {
  const holds = [
    ...recordHolds(context),
    ...equipmentHolds(input, context),
    ...conditionHolds(context, brief),
    ...loadHolds(brief),
    ...powerHolds(context, brief),
    ...washHolds(brief),
    ...turnRoundHolds(input, context, brief),
    ...wayHolds(input, context),
  ];
  return holds.toSorted((a, b) => Number(b.severity === 'no-go') - Number(a.severity === 'no-go'));
}

const noGo = (id: string, title: string, words: string): Hold => ({ id, severity: 'no-go', title, words });
const caution = (id: string, title: string, words: string): Hold => ({ id, severity: 'caution', title, words });

function recordHolds({ openExceedances, type }: BriefContext): Hold[] {
  return openExceedances.map((entry) => ({
    id: `exceedance-${entry.run}-${entry.seq}`,
    severity: 'no-go',
    title: 'An exceedance is open',
    words: `${describe(type, entry)}. An engineer who has looked releases it, by name, before the next start.`,
    exceedance: { run: entry.run, seq: entry.seq },
  }));
}

function describe(type: TypeFile, entry: HeldEntry): string {
  const { title, detail } = sayEntry(type, entry)!;
  return `${entry.at.slice(0, 16).replace('T', ' ')} UTC: ${title} ${detail}`;
}

function equipmentHolds({ missing }: BriefInput, { type }: BriefContext): Hold[] {
  return type.equipment
    .filter((e) => missing.includes(e.id))
    .map((e) => ({ id: `missing-${e.id}`, severity: e.failure, title: `${e.label} missing`, words: e.why }));
}

function conditionHolds({ type, now }: BriefContext, brief: BriefFigures): Hold[] {
  const holds: Hold[] = [];
  if (brief.age_min === null)
    holds.push(caution('conditions', 'No time of observation', 'Paste a report, or enter when the day was observed.'));
  else if (brief.age_min > type.briefGoodFor_min)
    holds.push(
      caution(
        'expired',
        'Conditions are old',
        `Observed ${Math.round(brief.age_min)} minutes before ${now.slice(11, 16)} UTC; the operator allows ${type.briefGoodFor_min}.`,
      ),
    );
  else if (brief.age_min < -10)
    holds.push(
      caution('expired', 'Conditions lie ahead', 'The report is of a time to come: look at its day and hour.'),
    );
  const wind = known(brief.rotorStart);
  if (brief.rotorStart.state !== 'known') holds.push(noGo('wind', 'Wind not judged', `${brief.rotorStart.words}.`));
  else if (wind!.verdict === 'UNKNOWN')
    holds.push(noGo('wind', 'Wind unknown', 'The rotor is not started in a wind that nobody has read.'));
  else if (wind!.verdict === 'EXCEEDS')
    holds.push(
      noGo(
        'wind',
        'Wind outside the rotor’s limit',
        wind!.reasons.includes('GUST_SPREAD')
          ? `Gusts stand more than ${type.wind.rotor_kt.gust_spread} kt above the mean.`
          : `${Math.ceil(wind!.wind_kt!)} kt from ${quadrantWords(wind!.quadrants)}; the limit there is ${wind!.limit_kt}.`,
      ),
    );
  else if (wind!.verdict === 'CAUTION')
    holds.push(
      caution(
        'wind-near',
        'Wind close to the rotor’s limit',
        `${Math.ceil(wind!.wind_kt!)} kt from ${quadrantWords(wind!.quadrants)}; the limit there is ${wind!.limit_kt}.`,
      ),
    );
  const stop = known(brief.rotorStop);
  if (stop?.verdict === 'EXCEEDS' && wind?.verdict !== 'EXCEEDS')
    holds.push(
      caution('wind-stop', 'Not to be stopped in this wind', `The limit for stopping is ${stop.limit_kt} kt.`),
    );
  return holds;
}

const QUADRANTS = { HEAD: 'ahead', RIGHT: 'the right', TAIL: 'behind', LEFT: 'the left' } as const;
function quadrantWords(quadrants: readonly (keyof typeof QUADRANTS)[]): string {
  return quadrants.map((q) => QUADRANTS[q]).join(' or ') || 'any side';
}

function loadHolds(brief: BriefFigures): Hold[] {
  const holds: Hold[] = [];
  const { balance, landing, fuel, landingFuel_kg } = brief;
  if (balance.state === 'unknown') holds.push(caution('load', 'Weight unknown', `Not judged: ${balance.words}.`));
  else if (balance.state === 'refused') holds.push(noGo('load', 'Load not possible', `${balance.words}.`));
  else {
    const { ramp, takeoff, path_worst } = balance.value;
    const places = [
      [ramp.status, 'at start'],
      [takeoff.status, 'at lift'],
      [known(landing)?.ramp.status ?? 'INSIDE', 'at landing'],
    ] as const;
    const outside = places.filter(([status]) => status === 'OUTSIDE').map(([, where]) => where);
    if (outside.length > 0)
      holds.push(
        noGo('load', 'Load outside the envelope', `${outside.join(', ')}: move or leave something, then look again.`),
      );
    else if (path_worst.status === 'OUTSIDE')
      holds.push(
        caution(
          'load-later',
          'Leaves the envelope as fuel burns',
          `Outside from ${Math.round(path_worst.fuel_kg)} kg of fuel down.`,
        ),
      );
    else if (places.some(([status]) => status === 'NEAR_EDGE'))
      holds.push(caution('load-edge', 'Load close to the edge', 'Weigh what was estimated.'));
  }
  if (fuel.state === 'known' && fuel.value.status !== 'OK')
    holds.push(
      fuel.value.status === 'BELOW_RESERVE'
        ? caution('fuel', 'Fuel below the final reserve', `${Math.ceil(fuel.value.reserve_kg)} kg has to be left.`)
        : noGo('fuel', 'Not enough fuel for the ground', 'It would be gone before lift.'),
    );
  else if (fuel.state === 'known' && landingFuel_kg.state === 'refused')
    holds.push(noGo('fuel-flight', 'Not enough fuel for the flight', `${landingFuel_kg.words}.`));
  else if (fuel.state === 'known' && (known(landingFuel_kg) ?? Infinity) < fuel.value.reserve_kg)
    holds.push(
      caution(
        'fuel-flight',
        'The flight uses the final reserve',
        `${Math.ceil(fuel.value.reserve_kg)} kg has to be left at landing; ${Math.floor(known(landingFuel_kg)!)} kg would be.`,
      ),
    );
  return holds;
}

function powerHolds({ type }: BriefContext, brief: BriefFigures): Hold[] {
  const holds: Hold[] = [];
  const { hoverIge, hoverOge, battery } = brief;
  const unit = type.performance.chart.unit;
  if (hoverIge.state === 'refused')
    holds.push(noGo('power', 'No power figure', `${hoverIge.words}. Without it there is no lift.`));
  else if (hoverIge.state === 'unknown')
    holds.push(caution('power', 'Power unknown', `Not judged: ${hoverIge.words}.`));
  else if (hoverIge.value.margin < 0)
    holds.push(noGo('power', 'No hover at this weight', `${-hoverIge.value.margin} ${unit} short in ground effect.`));
  else if (known(hoverOge) && known(hoverOge)!.margin < 0)
    holds.push(
      caution(
        'power-oge',
        'No hover out of ground effect',
        `${-known(hoverOge)!.margin} ${unit} short: no vertical departure.`,
      ),
    );
  const cold = known(battery);
  if (cold?.verdict === 'USE_GROUND_POWER')
    holds.push(
      caution(
        'battery',
        'Battery cold',
        `About ${cold.display.v_crank_V} V while cranking; use ground power or warm it.`,
      ),
    );
  return holds;
}

function washHolds({ wash }: BriefFigures): Hold[] {
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

function turnRoundHolds(input: BriefInput, context: BriefContext, brief: BriefFigures): Hold[] {
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
function wayHolds({ ways }: BriefInput, { type, operatorWays }: BriefContext): Hold[] {
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
