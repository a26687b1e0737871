import type { TypeFile, WatchedType } from '@rouse/core/aircraft';
import { allowedToday, type BriefContext, type BriefInput, type DayAllows, simulatedBrief } from '@rouse/core/brief';
import type { DrillFlown, RoundFlown, WhatIfAnswer, WhatIfAsked } from '@rouse/core/contract';
import { badDaysOf, bestHandOf, dealStart, decide, FULL, flyAgain, type Lesson, marksOf, sumOf, truthOf } from '@rouse/core/drill'; // oxfmt-ignore
import { BadRow, type KeptAs, keepRecording, type KeptRecording, type RecordedFile } from '@rouse/core/replay';
import { type TailRecord, type TailTrends, trendsOf } from '@rouse/core/trends';
import { v7 as uuidv7 } from 'uuid';
import { type ReportAsked, writeReport } from '../reports/write.ts';
import { answerWhatIf, type StartsOfTail } from './what-if.ts';

/** What can be asked of the thread that reckons. */
export type Asked =
  | { kind: 'trends'; type: TypeFile; record: TailRecord }
  | { kind: 'day'; context: BriefContext; report: string | null; last: BriefInput | null }
  | { kind: 'recording'; type: WatchedType; file: RecordedFile; kept: Omit<KeptAs, 'newId'> }
  | { kind: 'drill'; type: WatchedType; lesson: Lesson; flown: DrillFlown }
  | { kind: 'round'; type: WatchedType; flown: RoundFlown }
  | { kind: 'what-if'; starts: StartsOfTail; asked: WhatIfAsked }
  | { kind: 'report'; report: ReportAsked };
/** A recording as a run, or why it is none. */
export type ReadRecording = { kept: KeptRecording } | { refused: string };
/** What a drill was marked, with what cost most in words. */
export interface DrillMarked {
  sum: number;
  worst: string[];
  /** everything that cost something, by the item or control that it is about */
  lost: { of: string; points: number }[];
}
export type Reckoned =
  | TailTrends
  | DayAllows
  | ReadRecording
  | DrillMarked
  | WhatIfAnswer
  | { refused: string }
  | Uint8Array;

export async function reckon(asked: Asked): Promise<Reckoned> {
  switch (asked.kind) {
    case 'trends':
      return trendsOf(asked.type, asked.record);
    case 'day':
      return allowedToday(asked.context, asked.report, asked.last);
    case 'recording':
      return readRecording(asked);
    case 'drill':
      return markDrill(asked);
    case 'round':
      return markRound(asked);
    case 'what-if':
      return answerWhatIf(asked.starts, asked.asked);
    case 'report':
      return writeReport(asked.report);
  }
}

/** what is kept of what cost most */
const WORST = 5;

/** Flies a drill again from its acts, and marks it. */
function markDrill({ type, lesson, flown }: Extract<Asked, { kind: 'drill' }>): DrillMarked | { refused: string } {
  const preset = type.standIn.find((p) => p.id === lesson.day) ?? type.standIn[0]!;
  const options = { type, lesson, seed: flown.seed, brief: simulatedBrief(type, preset) };
  try {
    const flight = flyAgain(options, flown.acts, flown.ended_s);
    const { sum, losses } = marksOf(flight.flown(), bestHandOf(options));
    return { sum, worst: losses.slice(0, WORST).map((l) => l.words), lost: losses.map(({ of, points }) => ({ of, points })) }; // oxfmt-ignore
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    return { refused: error.message };
  }
}

/** Deals the starts of a round again, and decides them. */
function markRound({ type, flown }: Extract<Asked, { kind: 'round' }>): DrillMarked {
  const bad = badDaysOf(type);
  const decided = flown.starts.map(({ seed, difficulty, stopped_s }) => {
    const deal = dealStart(type, bad, seed, difficulty);
    return decide(type, deal, truthOf(type, deal), stopped_s);
  });
  const worst = decided.toSorted((a, b) => a.points - b.points).filter((d) => d.points < FULL);
  return {
    sum: sumOf(decided),
    worst: worst.slice(0, WORST).map((d) => `${d.deal.wrong ?? 'A good start'}: ${d.words}`),
    lost: [],
  };
}

function readRecording({ type, file, kept }: Extract<Asked, { kind: 'recording' }>): ReadRecording {
  try {
    return { kept: keepRecording(type, file, { ...kept, newId: (at_ms) => uuidv7({ msecs: at_ms }) }) };
  } catch (error) {
    // a mapping that does not fit is told by its reader
    if (error instanceof RangeError) return { refused: error.message };
    if (!(error instanceof BadRow)) throw error;
    const place = [error.row > 0 && `row ${error.row}`, error.column && `column ${error.column}`].filter(Boolean);
    return { refused: place.length > 0 ? `${place.join(', ')}: ${error.message}` : error.message };
  }
}
