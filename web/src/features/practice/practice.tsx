import { isWatched, type TypeFile, type WatchedType } from '@rouse/core/aircraft';
import type { Practice, PracticeRow, Today } from '@rouse/core/contract';
import { usualMass_kg } from '@rouse/core/loading';
import type { PracticeNow } from '@rouse/core/drill';
import { convert } from '@rouse/core/quantity';
import { useEffect, useMemo, useState } from 'react';
import { bindKeys } from '../../platform/keys.ts';
import styled from 'styled-components';
import { useAppSelector } from '../../app/store.ts';
import { phone, upright } from '../../app/theme.ts';
import { Button, Key, PrimaryButton } from '../../ui/button.tsx';
import { Columns, PageHead } from '../../ui/columns.ts';
import { PREVAILS, Small } from '../../ui/heading.ts';
import { Slider } from '../../ui/slider.tsx';
import { useUnits } from '../../ui/units.ts';
import { getJson, postJson } from '../../platform/api.ts';
import { useCollective } from './collective.ts';
import { usePractice } from './use-practice.ts';
import { Flight } from './flight.tsx';
import { Past } from './past.tsx';
import { Timers } from './timers.tsx';

/** A frame and a word that no real run has. */
const Frame = styled(Columns)`
  --left: 320px;
  --right: 280px;
  grid-template: auto minmax(0, 1fr) / var(--left) minmax(0, 1fr) var(--right);
  grid-template-areas: 'head head head' 'left mid right';
  border: 6px dashed var(--limit-edge);
  overflow: auto;
  ${upright} {
    grid-template: repeat(3, max-content) / 300px minmax(0, 1fr);
    grid-template-areas: 'head head' 'left mid' 'right right';
  }
  ${phone} {
    grid-template: repeat(4, max-content) / minmax(0, 1fr);
    grid-template-areas: 'head' 'mid' 'left' 'right';
  }
`;

const Head = styled(PageHead)`
  padding: 10px 18px;
  background: var(--band1);
  border-color: var(--limit-edge);
  h1,
  p {
    color: var(--limit-ink);
  }
`;

const Side = styled.section`
  padding: 12px 16px;
  background: var(--sheet);
  display: flex;
  flex-direction: column;
  gap: 8px;
  overflow: auto;
  > button {
    justify-content: space-between;
    &[aria-pressed='true'] {
      background: var(--usual1);
      border-color: var(--track);
    }
  }
`;

const Mid = styled.section`
  grid-area: mid;
  padding: 12px 16px;
  display: grid;
  grid-template-rows: auto auto minmax(200px, 1fr);
  gap: 10px;
  min-height: 0;
  min-width: 0;
  ${phone} {
    grid-template-rows: auto auto auto;
    &:has(dl) {
      grid-template-rows: auto auto 320px;
    }
  }
`;

const LIMITERS = [
  { id: 'AUTO', label: 'as the control selects it', key: 'Q' },
  { id: '2min', label: 'two minutes', key: 'E' },
  { id: 'cont', label: 'continuous', key: 'R' },
  { id: 'override', label: 'override, no limit', key: 'O' },
] as const;

interface Ready {
  types: WatchedType[];
  past: PracticeRow[];
}

async function loadTwins(): Promise<Ready> {
  const { aircraft } = await getJson<Today>('/today');
  const types: WatchedType[] = [];
  for (const { type } of aircraft) {
    const file = await getJson<TypeFile>(`/types/${type.id}/${type.version}`);
    if (isWatched(file) && file.ratings?.oneEngine) types.push(file);
  }
  return { types, past: await getJson<PracticeRow[]>('/practice') };
}

/** One engine out, practised on the simulator: training mode, a failure at any moment, the limiter and its price. */
export function PracticeView() {
  const [ready, setReady] = useState<Ready | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  useEffect(() => {
    loadTwins()
      .then(setReady)
      .catch((error: unknown) => setFailure(error instanceof Error ? error.message : String(error)));
  }, []);
  return (
    <Frame>
      <title>Practice · Rouse</title>
      <Head>
        <h1>Practice</h1>
        <p>On the simulator. Nothing here enters an aircraft’s record. {PREVAILS}</p>
      </Head>
      {failure !== null && <p role="alert">{failure}</p>}
      {ready ? <Cockpit ready={ready} /> : failure === null && <p role="status">Reading the types…</p>}
    </Frame>
  );
}

function Cockpit({ ready }: { ready: Ready }) {
  const voice = useAppSelector((s) => s.settings.voice);
  const { show } = useUnits();
  const { now, begin, send } = usePractice(voice);
  const [type, setType] = useState(ready.types[0]!);
  const [mass_kg, setMass] = useState(() => usualMass_kg(ready.types[0]!.loading));
  const [oat_C, setOat] = useState(15);
  const [height_ft, setHeight] = useState(100);
  const [past, setPast] = useState(ready.past);
  const flying = now !== null && now.ended === null;

  const start = (): void => begin(type, { mass_kg, oat_C, pa_m: 19, height_m: convert(height_ft, 'ft', 'm') });
  const stop = (): void => {
    if (now) void keep(now).then(setPast);
    send({ kind: 'end' });
  };
  const keep = async (last: PracticeNow): Promise<PracticeRow[]> => {
    await postJson('/practice', resultOf(type, mass_kg, oat_C, last)).catch(() => undefined);
    return getJson<PracticeRow[]>('/practice').catch(() => past);
  };
  const hand = useMemo(
    () => ({
      set: (to: number) => send({ kind: 'collective', to }),
      move: (by: number) => send({ kind: 'collective-by', by }),
    }),
    [send],
  );
  useCollective(flying ? hand : null);

  const keys: Record<string, () => void> = flying
    ? {
        t: () => send({ kind: 'training', on: !now.training }),
        '1': () => send({ kind: 'fail', engine: 1 }),
        '2': () => send({ kind: 'fail', engine: 2 }),
        h: () => send({ kind: 'hand-back' }),
        escape: stop,
        ...Object.fromEntries(
          LIMITERS.map((l) => [l.key.toLowerCase(), () => send({ kind: 'limiter', limiter: l.id })]),
        ),
      }
    : {};
  useKeys(keys);

  return (
    <>
      <Side aria-label="Exercise" style={{ gridArea: 'left' }}>
        {now === null ? (
          <>
            <Small>The hover</Small>
            {ready.types.map((t) => (
              <Button
                key={t.id}
                aria-pressed={t === type}
                onPress={() => {
                  setType(t);
                  setMass(usualMass_kg(t.loading));
                }}
              >
                {t.name} {t === type ? '· chosen' : ''}
              </Button>
            ))}
            <Slider
              label="Weight"
              value={mass_kg}
              onChange={setMass}
              range={[Math.ceil((1.1 * type.loading.empty_kg) / 10) * 10, type.loading.mtow_kg]}
              step={10}
              said={show(mass_kg, 'mass', 'ceil')}
            />
            <Slider
              label="Outside air"
              value={oat_C}
              onChange={setOat}
              range={[-20, 40]}
              step={1}
              said={show(oat_C, 'temperature')}
            />
            <Slider
              label="Height of the skids"
              value={height_ft}
              onChange={setHeight}
              range={[5, 500]}
              step={5}
              said={`${height_ft} ft`}
            />
            <PrimaryButton onPress={start} autoFocus>
              Begin the hover
            </PrimaryButton>
          </>
        ) : (
          <>
            <Button aria-pressed={now.training} isDisabled={!flying} onPress={keys['t'] ?? (() => undefined)}>
              Training mode {now.training ? 'on' : 'off'} <Key>T</Key>
            </Button>
            {([1, 2] as const).map((engine) => (
              <Button
                key={engine}
                isDisabled={!flying || now.failed !== null}
                onPress={() => send({ kind: 'fail', engine })}
              >
                Engine {engine} fails now <Key>{engine}</Key>
              </Button>
            ))}
            <Small>Limiter</Small>
            {LIMITERS.map((l) => (
              <Button
                key={l.id}
                aria-pressed={now.limiter === l.id}
                isDisabled={!flying}
                onPress={() => send({ kind: 'limiter', limiter: l.id })}
              >
                {now.limiter === l.id ? '● ' : ''}
                {l.label} <Key>{l.key}</Key>
              </Button>
            ))}
            <Slider
              label="Collective"
              value={Math.round(100 * now.collective)}
              onChange={(v) => hand.set(v / 100)}
              range={[0, 100]}
              step={1}
              said={`${Math.round(100 * now.collective)} %`}
            />
            <Button isDisabled={!flying || !now.handFlown} onPress={() => send({ kind: 'hand-back' })}>
              {now.handFlown ? 'Hold this height for me' : 'Height is held; ↑ ↓ take the collective'} <Key>H</Key>
            </Button>
            <PrimaryButton onPress={stop}>
              {flying ? 'End and keep the result' : 'Keep the result'} <Key>Esc</Key>
            </PrimaryButton>
          </>
        )}
      </Side>
      <Mid aria-label="Flight">{now ? <Flight type={type} now={now} /> : <Past past={past} />}</Mid>
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <Side aria-label="Timers" tabIndex={0} style={{ gridArea: 'right' }}>
        <Timers type={type} now={now} />
      </Side>
    </>
  );
}

function useKeys(keys: Record<string, () => void>): void {
  useEffect(
    () =>
      bindKeys(Object.entries(keys).map(([key, run]) => ({ keys: [key], shown: key.toUpperCase(), says: '', run }))),
    [keys],
  );
}

function resultOf(type: TypeFile, mass_kg: number, oat_C: number, now: PracticeNow): Practice {
  return {
    type: type.id,
    exercise: now.failed === null ? 'training' : 'failure',
    result: {
      lasted_s: now.t_s,
      height_lost_m: now.heightLost_m,
      nr_least_pct: now.nrLeast_pct,
      mass_kg,
      oat_C,
      failed_at_s: now.failedAt_s,
      ratings: now.ratings
        .filter((r) => r.booked_s > 0)
        .map(({ label, booked_s, uses, engine }) => ({ label: `${label}, engine ${engine}`, booked_s, uses })),
      ended: now.ended ?? 'stopped',
    },
  };
}
