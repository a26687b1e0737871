import type { LiveMessage } from '@rouse/core/contract';

const RETRY_MS = 400;
/** a run is told of ten times a second: a connection that says nothing for so long leads to a server that stands still */
const SILENT_MS = 3000;
/** a fleet that changes hands is answered for within this */
const OPENS_WITHIN_MS = 8000;

export interface LiveHandlers {
  onMessage(message: LiveMessage): void;
  /** one frame behind the other */
  onFrames(frames: Float64Array): void;
  onConnection(connected: boolean): void;
}

/** Follows one run over a WebSocket that connects again by itself. @returns how to stop */
export function followRun(run: string, handlers: LiveHandlers): () => void {
  return keepConnected(`/live?run=${run}`, {
    onText: (text) => handlers.onMessage(JSON.parse(text) as LiveMessage),
    onBytes: (bytes) => handlers.onFrames(new Float64Array(bytes)),
    onConnection: (connected) => handlers.onConnection(connected),
    silent_ms: SILENT_MS,
  }).stop;
}

export interface Room<Sent> {
  send: (message: Sent) => void;
  stop: () => void;
}

/** Comes into the room of a drill; what is sent while nobody is connected is lost. */
export function enterRoom<Sent, Told>(code: string, onTold: (told: Told) => void, onConnection: (connected: boolean) => void): Room<Sent> {
  const { send, stop } = keepConnected(`/live/drill?code=${encodeURIComponent(code)}`, {
    onText: (text) => onTold(JSON.parse(text) as Told),
    onBytes: () => undefined,
    onConnection,
    silent_ms: Infinity,
  });
  return { send: (message) => send(JSON.stringify(message)), stop };
} // oxfmt-ignore

interface Received {
  onText: (text: string) => void;
  onBytes: (bytes: ArrayBuffer) => void;
  onConnection: (connected: boolean) => void;
  /** without a word for so long it is no connection any more */
  silent_ms: number;
}

/** A WebSocket that connects again by itself. */
function keepConnected(place: string, { onText, onBytes, onConnection, silent_ms }: Received): Room<string> {
  let socket: WebSocket | null = null;
  let retry: number | undefined;
  let silence: number | undefined;
  let stopped = false;
  const connect = (): void => {
    const scheme = window.location.protocol === 'https:' ? 'wss' : 'ws';
    const mine = new WebSocket(`${scheme}://${window.location.host}${place}`);
    socket = mine;
    socket.binaryType = 'arraybuffer';
    const gone = (): void => {
      // whoever stands still may not even close: it is not waited for
      mine.onclose = mine.onmessage = mine.onopen = null;
      mine.close();
      window.clearTimeout(silence);
      onConnection(false);
      if (!stopped) retry = window.setTimeout(connect, RETRY_MS);
    };
    const waitFor = (ms: number): void => {
      window.clearTimeout(silence);
      if (ms < Infinity) silence = window.setTimeout(gone, ms);
    };
    waitFor(OPENS_WITHIN_MS);
    socket.onopen = () => {
      waitFor(silent_ms);
      onConnection(true);
    };
    socket.onmessage = (event: MessageEvent<string | ArrayBuffer>) => {
      waitFor(silent_ms);
      if (typeof event.data === 'string') onText(event.data);
      else onBytes(event.data);
    };
    socket.onclose = gone;
  };
  connect();
  return {
    send(text) {
      if (socket?.readyState === WebSocket.OPEN) socket.send(text);
    },
    stop() {
      stopped = true;
      window.clearTimeout(retry);
      window.clearTimeout(silence);
      socket?.close();
    },
  };
}
