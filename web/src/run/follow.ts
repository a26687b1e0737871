import type { TypeFile } from '@rouse/core/aircraft';
import type { RunDetail } from '@rouse/core/contract';
import { decodeChunk } from '@rouse/core/trace';
import { useEffect } from 'react';
import { useAppDispatch } from '../app/store.ts';
import { getBytes, getJson } from '../platform/api.ts';
import { followRun } from '../platform/live-socket.ts';
import { store } from '../app/store.ts';
import { announceUnanswered } from './announce.ts';
import { ring } from './frame-ring.ts';
import { knowsAlready, receive } from './receive.ts';
import { connectionChanged, runFailed, runLeft, runLoaded, statusArrived, type WiredCorridors } from './run-slice.ts';

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
      knowsAlready(detail.entries);
      dispatch(runLoaded({ detail, type, corridors }));
      if (detail.closedAt !== null) return;
      announceUnanswered(store.getState().run.followed!);
      unfollow = followRun(run, {
        onFrame: (frame) => ring.push(frame),
        onConnection: (connected) => dispatch(connectionChanged(connected)),
        onMessage: (message) => {
          const now_ms = performance.now();
          if (message.kind === 'status') {
            ring.heard(message.source, now_ms);
            dispatch(statusArrived({ ...message, arrivedAt_ms: now_ms }));
          } else if (message.kind === 'hello') receive(message.entries, 'missed');
          else if (message.kind === 'entries') receive(message.entries, 'new');
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
