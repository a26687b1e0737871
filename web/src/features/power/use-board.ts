import type { TypeFile } from '@rouse/core/aircraft';
import { useEffect, useRef, useState } from 'react';
import type { WhatIf } from './board-figures.ts';
import type { BoardAnswer, ToBoard } from './messages.ts';

/** Asks a worker for one board at a time; of the moves of a slider that come meanwhile only the last is asked. */
class BoardDesk {
  private readonly worker = new Worker(new URL('board-worker.ts', import.meta.url), { type: 'module' });
  private asked = false;
  private waiting: WhatIf | null = null;

  constructor(type: TypeFile, answered: (answer: BoardAnswer) => void) {
    this.send({ kind: 'begin', type });
    this.worker.addEventListener('message', ({ data }: MessageEvent<BoardAnswer>) => {
      this.asked = false;
      answered(data);
      if (this.waiting) this.ask(this.waiting);
    });
  }

  ask(what: WhatIf): void {
    this.waiting = this.asked ? what : null;
    if (this.asked) return;
    this.asked = true;
    this.send({ kind: 'ask', what });
  }

  close(): void {
    this.worker.terminate();
  }

  private send(message: ToBoard): void {
    this.worker.postMessage(message);
  }
}

/** The board of the what-if as it stands, worked out beside the page. @returns null until the first is there */
export function useBoard(type: TypeFile, what: WhatIf): BoardAnswer | null {
  const [answer, setAnswer] = useState<BoardAnswer | null>(null);
  const desk = useRef<BoardDesk | null>(null);
  useEffect(() => {
    const opened = new BoardDesk(type, setAnswer);
    desk.current = opened;
    return () => opened.close();
  }, [type]);
  useEffect(() => desk.current?.ask(what), [type, what]);
  return answer;
}
