import type { RunDetail } from '@rouse/core/contract';
import { decodeChunk } from '@rouse/core/trace';
import { useEffect } from 'react';
import { useAppDispatch } from '../app/store.ts';
import { stayAwake } from '../platform/awake.ts';
import { followRun } from '../platform/live-socket.ts';
import { everyPulse } from '../platform/pulse.ts';
import { notReached, reached } from '../platform/reach.ts';
import { store } from '../app/store.ts';
import { announceUnanswered } from './announce.ts';
import { ring } from './frame-ring.ts';
import { readRun } from './read-run.ts';
import { knowsAlready, receive } from './receive.ts';
import { leaveTabletRun, takeUpTabletRun } from './tablet/in-hand.ts';
import type { TabletRun } from './tablet/tablet-run.ts';
import { unrecordedStatus } from './unrecorded.ts';
import { connectionChanged, type LiveStatus, runFailed, runLeft, runLoaded, statusArrived } from './run-slice.ts';

/** Loads a run with its type, corridor and last minutes, then follows it live until the page leaves. */
export function useFollowRun(run: string): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    let left = false;
    let unfollow: (() => void) | null = null;
    let sleep: (() => void) | null = null;
    const load = async (): Promise<void> => {
      const own = await takeUpTabletRun(run);
      if (left) return;
      if (own) {
        unfollow = followTabletRun(own, dispatch);
        sleep = stayAwake();
        return;
      }
      const { detail, corridors, type, bytes } = await readRun(run);
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
      sleep = stayAwake();
      const statuses = takeStatuses(dispatch);
      const stop = followRun(run, {
        onFrames: (frames) => ring.push(frames),
        onConnection: (connected) => {
          dispatch(connectionChanged(connected));
          if (connected) reached();
          else notReached(null);
        },
        onMessage: (message) => {
          const now_ms = performance.now();
          if (message.kind === 'status') {
            ring.heard(message.source, now_ms);
            statuses.take({ ...message, arrivedAt_ms: now_ms });
          } else if (message.kind === 'hello') receive(message.entries, 'missed');
          else if (message.kind === 'entries') receive(message.entries, 'new');
        },
      });
      unfollow = () => {
        stop();
        statuses.stop();
      };
    };
    load().catch((error: unknown) => {
      if (!left) dispatch(runFailed(error instanceof Error ? error.message : String(error)));
    });
    return () => {
      left = true;
      unfollow?.();
      sleep?.();
      leaveTabletRun();
      dispatch(runLeft());
    };
  }, [run, dispatch]);
}

const STATUS_EVERY_MS = 100;

/**
 * What the server says ten times a second of how things stand is shown in the beat of all that is looked at again, so that
 * the page is rendered once for both. Alarms are entries: they wait for no beat.
 */
function takeStatuses(dispatch: typeof store.dispatch): { take: (status: LiveStatus) => void; stop: () => void } {
  let newest: LiveStatus | null = null;
  const show = (): void => {
    if (newest) dispatch(statusArrived(newest));
    newest = null;
  };
  const stop = everyPulse(STATUS_EVERY_MS, show);
  const take = (status: LiveStatus): void => {
    newest = status;
    if (store.getState().run.status === null) show();
  };
  return { take, stop };
}

/** the clock of a run by hand is shown so often */
const CLOCK_MS = 200;

/** A run that is kept here: there is nobody to listen to, and time goes on. @returns how to leave it */
function followTabletRun(run: TabletRun, dispatch: typeof store.dispatch): () => void {
  const { head, type, entries } = run;
  const closed = entries.find((e) => e.kind === 'closed');
  ring.reset(type.channels.length, null);
  knowsAlready(entries);
  const detail: RunDetail = { ...head, entries: [...entries], closedAt: closed?.at ?? null, outcome: closed?.outcome ?? null };
  dispatch(runLoaded({ detail, type, corridors: {} }));
  dispatch(connectionChanged(true));
  return everyPulse(CLOCK_MS, () => dispatch(statusArrived(unrecordedStatus(run.now_s(), run.view()))));
} // oxfmt-ignore
