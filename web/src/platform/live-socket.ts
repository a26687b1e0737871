import type { LiveMessage } from '@rouse/core/contract';

const RETRY_MS = 400;

export interface LiveHandlers {
  onMessage(message: LiveMessage): void;
  onFrame(frame: Float64Array): void;
  onConnection(connected: boolean): void;
}

/** Follows one run over a WebSocket that connects again by itself. @returns how to stop */
export function followRun(run: string, handlers: LiveHandlers): () => void {
  let socket: WebSocket | null = null;
  let retry: number | undefined;
  let stopped = false;
  const connect = (): void => {
    socket = new WebSocket(`ws://${window.location.host}/live?run=${run}`);
    socket.binaryType = 'arraybuffer';
    socket.onopen = () => handlers.onConnection(true);
    socket.onmessage = (event: MessageEvent<string | ArrayBuffer>) => {
      if (typeof event.data === 'string') handlers.onMessage(JSON.parse(event.data) as LiveMessage);
      else handlers.onFrame(new Float64Array(event.data));
    };
    socket.onclose = () => {
      handlers.onConnection(false);
      if (!stopped) retry = window.setTimeout(connect, RETRY_MS);
    };
  };
  connect();
  return () => {
    stopped = true;
    window.clearTimeout(retry);
    socket?.close();
  };
}
