import type { TypeFile } from '@rouse/core/aircraft';
import type { BriefContextMessage, RunDetail } from '@rouse/core/contract';
import { usualMass_kg } from '@rouse/core/loading';
import { chartAir, massNow_kg, reduceRun } from '@rouse/core/procedure';
import { useEffect, useState } from 'react';
import { getJson } from '../../platform/api.ts';
import type { WhatIf } from './board-figures.ts';

export interface Loaded {
  tail: string;
  type: TypeFile;
  /** where it stands: from the open run, else a usual day */
  start: WhatIf;
  from: string;
}

const USUAL = { height_ft: 30, wind_kt: 0, oat_C: 15, obstacleClear: false, landingOk: false };

async function load(aircraft: string): Promise<Loaded> {
  const message = await getJson<BriefContextMessage>(`/aircraft/${aircraft}/brief`);
  const type = await getJson<TypeFile>(`/types/${message.type.id}/${message.type.version}`);
  const usual = {
    ...USUAL,
    mass_kg: usualMass_kg(type.loading),
    pa_ft: message.site.elev_ft,
  };
  const { tail } = message;
  if (!message.openRun) return { tail, type, start: usual, from: 'a usual day; no run is open' };
  const run = await getJson<RunDetail>(`/runs/${message.openRun}`);
  const state = reduceRun(run.entries);
  const t_s = (Date.now() - Date.parse(run.openedAt)) / 1000;
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
    from: 'the open run: weight and air of this minute',
  };
}

/** The aircraft with its type and where it stands now. */
export function useLoaded(aircraft: string): { loaded: Loaded | null; failure: string | null } {
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  useEffect(() => {
    let left = false;
    load(aircraft)
      .then((found) => !left && setLoaded(found))
      .catch((error: unknown) => !left && setFailure(error instanceof Error ? error.message : String(error)));
    return () => {
      left = true;
    };
  }, [aircraft]);
  return { loaded, failure };
}
