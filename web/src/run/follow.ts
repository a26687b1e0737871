import type { TypeFile } from '@rouse/core/aircraft';
import type { RunDetail } from '@rouse/core/contract';
import { decodeChunk } from '@rouse/core/trace';
import { useEffect } from 'react';
import { useAppDispatch } from '../app/store.ts';
import { getBytes, getJson } from '../platform/api.ts';
import { followRun } from '../platform/live-socket.ts';
import { announce } from './announce.ts';
import { ring } from './frame-ring.ts';
import {
  connectionChanged,
  entriesArrived,
  runFailed,
  runLeft,
  runLoaded,
  statusArrived,
  type WiredCorridors,
} from './run-slice.ts';

const LOOK_BACK_S = 120;

/** Loads a run with its type, corridor and last minutes, then follows it live until the page leaves. */
export function useFollowRun(run: string): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    let left = false;
    let unfollow: (() => void) | null = null;
    const load = async (): Promise<void> => {
      const [detail, corridors] = await Promise.all([
        getJson<RunDetail>(`/runs/${run}`),
        getJson<WiredCorridors>(`/runs/${run}/corridors`),
      ]);
      const elapsed_s = (Date.now() - Date.parse(detail.openedAt)) / 1000;
      const [type, bytes] = await Promise.all([
        getJson<TypeFile>(`/types/${detail.type.id}/${detail.type.version}`),
        getBytes(`/runs/${run}/trace?from=${Math.max(0, elapsed_s - LOOK_BACK_S)}`),
      ]);
      if (left) return;
      ring.reset(
        type.channels.length,
        decodeChunk(
          bytes,
          type.channels.map((c) => c.id),
        ),
      );
      dispatch(runLoaded({ detail, type, corridors }));
      if (detail.closedAt !== null) return;
      unfollow = followRun(run, {
        onFrame: (frame) => ring.push(frame, performance.now()),
        onConnection: (connected) => dispatch(connectionChanged(connected)),
        onMessage: (message) => {
          if (message.kind === 'status') dispatch(statusArrived({ ...message, arrivedAt_ms: performance.now() }));
          else {
            dispatch(entriesArrived({ entries: message.entries, whole: message.kind === 'hello' }));
            if (message.kind === 'entries') message.entries.forEach(announce);
          }
        },
      });
    };
    load().catch((error: unknown) => {
      if (!left) dispatch(runFailed(error instanceof Error ? error.message : String(error)));
    });
    return () => {
      left = true;
      unfollow?.();
      dispatch(runLeft());
    };
  }, [run, dispatch]);
}
