import type { LiveMessage } from '@rouse/core/contract';

const RETRY_MS = 400;

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
  });
  return { send: (message) => send(JSON.stringify(message)), stop };
} // prettier-ignore

interface Received {
  onText: (text: string) => void;
  onBytes: (bytes: ArrayBuffer) => void;
  onConnection: (connected: boolean) => void;
}

/** A WebSocket that connects again by itself. */
function keepConnected(place: string, { onText, onBytes, onConnection }: Received): Room<string> {
  let socket: WebSocket | null = null;
  let retry: number | undefined;
  let stopped = false;
  const connect = (): void => {
    const scheme = window.location.protocol === 'https:' ? 'wss' : 'ws';
    socket = new WebSocket(`${scheme}://${window.location.host}${place}`);
    socket.binaryType = 'arraybuffer';
    socket.onopen = () => onConnection(true);
    socket.onmessage = (event: MessageEvent<string | ArrayBuffer>) => {
      if (typeof event.data === 'string') onText(event.data);
      else onBytes(event.data);
    };
    socket.onclose = () => {
      onConnection(false);
      if (!stopped) retry = window.setTimeout(connect, RETRY_MS);
    };
  };
  connect();
  return {
    send(text) {
      if (socket?.readyState === WebSocket.OPEN) socket.send(text);
    },
    stop() {
      stopped = true;
      window.clearTimeout(retry);
      socket?.close();
    },
  };
}
