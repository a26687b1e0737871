import type { TypeFile } from '@rouse/core/aircraft';
import type { RunDetail } from '@rouse/core/contract';
import { JUST_MEETS_C } from '@rouse/core/power';
import { usualMass_kg } from '@rouse/core/loading';
import { chartAir, massNow_kg, reduceRun } from '@rouse/core/procedure';
import { skipToken } from '@reduxjs/toolkit/query';
import { useMemo } from 'react';
import { type AircraftNow, troubleIn, useAircraftQuery, useRunQuery } from '../../app/server-data.ts';
import { dayAndTime } from '../../ui/words.ts';
import type { WhatIf } from './board-figures.ts';

export interface Loaded {
  tail: string;
  type: TypeFile;
  /** where it stands: from the open run, else a usual day */
  start: WhatIf;
  from: string;
}

const USUAL = { height_ft: 30, wind_kt: 0, oat_C: 15, obstacleClear: false, landingOk: false };

/** The aircraft with its type and where it stands now. */
export function useLoaded(aircraft: string): { loaded: Loaded | null; failure: string | null } {
  const found = useAircraftQuery(aircraft);
  const openRun = found.currentData?.message.openRun ?? null;
  const run = useRunQuery(openRun ?? skipToken);
  const loaded = useMemo(() => {
    if (!found.currentData || (openRun !== null && !run.currentData)) return null;
    return loadedOf(found.currentData, run.currentData ?? null);
  }, [found.currentData, openRun, run.currentData]);
  return { loaded, failure: troubleIn(found.error ?? run.error) };
}

function loadedOf({ message, type }: AircraftNow, run: RunDetail | null): Loaded {
  const { engineMargin } = message;
  // a margin that nobody has read is none; shown in whole degrees, rounded down
  const margin_C = Math.max(-20, Math.min(40, Math.floor(engineMargin?.margin_C ?? JUST_MEETS_C)));
  const engines = engineMargin
    ? `margin of the engines read on ${dayAndTime(engineMargin.at)}`
    : 'margin of the engines not known: as if they just met their specification';
  const usual = { ...USUAL, margin_C, mass_kg: usualMass_kg(type.loading), pa_ft: message.site.elev_ft };
  const { tail } = message;
  if (!run) return { tail, type, start: usual, from: `a usual day; no run is open; ${engines}` };
  const state = reduceRun(run.entries);
  const t_s = (Date.parse(message.now) - Date.parse(run.openedAt)) / 1000;
  const { brief } = state;
  return {
    tail,
    type,
    start: {
      ...usual,
      mass_kg: Math.ceil((massNow_kg(type, state, t_s) ?? usual.mass_kg) / 10) * 10,
      oat_C: brief?.oat_C ?? usual.oat_C,
      pa_ft: chartAir(type, { pa_ft: Math.ceil((brief?.pa_ft ?? usual.pa_ft) / 10) * 10 }).pa_ft,
    },
    from: `the open run: weight and air of this minute; ${engines}`,
  };
}
