import type { TypeFile } from '@rouse/core/aircraft';
import type { KeptMapping } from '@rouse/core/contract';
import { type CsvMapping, type FileHead, headerKey, type Scanned } from '@rouse/core/replay';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useAppDispatch } from '../../app/store.ts';
import { getJson, putJson } from '../../platform/api.ts';
import { announce } from '../../run/announce.ts';
import { ring } from '../../run/frame-ring.ts';
import { runLeft, runLoaded, statusArrived } from '../../run/run-slice.ts';
import { unrecordedRun, unrecordedStatus } from '../../run/unrecorded.ts';
import type { FromReplay, ToReplay } from './messages.ts';
import { useReplayWorker } from './use-replay-worker.ts';

/** Why a file is not read. */
export interface Refused {
  row: number;
  column: string;
  message: string;
  remedy: string;
}

interface Replay {
  file: File | null;
  head: FileHead | null;
  mapping: CsvMapping | null;
  /** the mapping was kept from an earlier file of this kind */
  kept: boolean;
  progress: { bytes: number; total: number; rows: number } | null;
  scanned: Scanned | null;
  refused: Refused | null;
  playing: boolean;
  speed: number;
  t_s: number;
}

const NOTHING: Replay = {
  file: null,
  head: null,
  mapping: null,
  kept: false,
  progress: null,
  scanned: null,
  refused: null,
  playing: false,
  speed: 1,
  t_s: 0,
};

export interface ReplayControls {
  replay: Replay;
  open: (file: File) => void;
  change: (mapping: CsvMapping) => void;
  begin: () => void;
  cancel: () => void;
  /** back to the mapping, with what was entered */
  remap: () => void;
  play: (from_s?: number) => void;
  pause: () => void;
  setSpeed: (speed: number) => void;
}

/** A recorded file from its choice to its play: the worker reads, the page draws. */
export function useReplay(type: TypeFile): ReplayControls {
  const dispatch = useAppDispatch();
  const [replay, setReplay] = useState<Replay>(NOTHING);
  const update = useCallback((change: Partial<Replay>) => setReplay((r) => ({ ...r, ...change })), []);
  const take = useCallback(
    (message: FromReplay, answer: (message: ToReplay) => void): void => {
      switch (message.kind) {
        case 'head':
          update({ head: message.head });
          answer({ kind: 'guess', channels: type.channels });
          getJson<KeptMapping>(`/mappings/${type.id}?header=${encodeURIComponent(headerKey(message.head))}`)
            .then(({ mapping }) => mapping && update({ mapping, kept: true }))
            // without the server the guess stands
            .catch(() => undefined);
          return;
        case 'guessed':
          setReplay((r) => (r.kept ? r : { ...r, mapping: message.mapping }));
          return;
        case 'progress':
          update({ progress: message });
          return;
        case 'scanned':
          ring.reset(type.channels.length, null);
          dispatch(runLoaded({ detail: unrecordedRun(type), type, corridors: {} }));
          update({ scanned: message.scanned, progress: null });
          return;
        case 'refused':
          update({ refused: message, progress: null, playing: false });
          return;
        case 'cancelled':
          update({ progress: null });
          return;
        case 'frames':
          takeFrames(message, type, dispatch);
          update({ t_s: message.t_s });
          return;
        case 'ended':
          update({ playing: false });
      }
    },
    [type, update, dispatch],
  );
  const send = useReplayWorker(take);
  useEffect(() => () => void dispatch(runLeft()), [type, dispatch]);
  return useMemo(() => controls(type, replay, setReplay, update, send), [type, replay, update, send]);
}

/** What a person can do with the recording. */
function controls(
  type: TypeFile,
  replay: Replay,
  setReplay: (to: Replay) => void,
  update: (change: Partial<Replay>) => void,
  send: (message: ToReplay) => void,
): ReplayControls {
  return {
    replay,
    open(file) {
      setReplay({ ...NOTHING, file });
      send({ kind: 'open', file });
    },
    change: (mapping) => update({ mapping, refused: null }),
    begin() {
      const { mapping, head } = replay;
      if (!mapping || !head) return;
      update({ refused: null, progress: { bytes: 0, total: 1, rows: 0 } });
      send({ kind: 'scan', type: type as never, mapping });
      // kept for the next file of this kind; a server that is away does not hold the replay up
      putJson(`/mappings/${type.id}`, { header: headerKey(head), mapping }).catch(() => undefined);
    },
    cancel: () => send({ kind: 'cancel' }),
    remap() {
      send({ kind: 'pause' });
      update({ scanned: null, playing: false, t_s: 0 });
    },
    play(from_s = replay.t_s) {
      const end_s = replay.scanned?.end_s ?? 0;
      const begin_s = from_s >= end_s ? 0 : from_s;
      update({ playing: true, t_s: begin_s });
      send({ kind: 'play', from_s: begin_s, speed: replay.speed });
    },
    pause() {
      send({ kind: 'pause' });
      update({ playing: false });
    },
    setSpeed(speed) {
      send({ kind: 'speed', speed });
      update({ speed });
    },
  };
}

/** Frames of the recording go where those of an aircraft go. */
function takeFrames(
  message: Extract<FromReplay, { kind: 'frames' }>,
  type: TypeFile,
  dispatch: ReturnType<typeof useAppDispatch>,
): void {
  if (message.jumped) ring.reset(type.channels.length, null);
  ring.push(message.frames);
  ring.heard('live', performance.now());
  dispatch(statusArrived(unrecordedStatus(message.t_s, { watch: message.watch })));
  for (const event of message.events) if (event.kind === 'cue' || event.kind === 'abort') announce(event);
}
