import { Worker } from 'node:worker_threads';
import type { BriefContext, BriefInput, DayAllows } from '@rouse/core/brief';
import type { TypeFile, WatchedType } from '@rouse/core/aircraft';
import type { DrillFlown, RoundFlown, WhatIfAnswer, WhatIfAsked } from '@rouse/core/contract';
import type { Lesson } from '@rouse/core/drill';
import type { KeptAs, RecordedFile } from '@rouse/core/replay';
import type { TailRecord, TailTrends } from '@rouse/core/trends';
import type { ReportAsked } from '../reports/write.ts';
import type { Asked, DrillMarked, ReadRecording, Reckoned } from './tasks.ts';
import type { StartsOfTail } from './what-if.ts';

interface Waiting {
  resolve: (done: Reckoned) => void;
  reject: (error: Error) => void;
}

/** One thread beside the server's own that works out trends, reads recordings and writes reports, one after the other. */
export class Reckoner {
  private readonly file: string;
  private worker: Worker | null = null;
  private readonly waiting = new Map<number, Waiting>();
  private next = 0;

  /** @param file the built reckon-worker.js */
  constructor(file: string) {
    this.file = file;
  }

  trends(type: TypeFile, record: TailRecord): Promise<TailTrends> {
    return this.ask({ kind: 'trends', type, record }) as Promise<TailTrends>;
  }

  day(context: BriefContext, report: string | null, last: BriefInput | null): Promise<DayAllows> {
    return this.ask({ kind: 'day', context, report, last }) as Promise<DayAllows>;
  }

  /** Reads a file of a tail's past as a run. */
  recording(type: WatchedType, file: RecordedFile, kept: Omit<KeptAs, 'newId'>): Promise<ReadRecording> {
    return this.ask({ kind: 'recording', type, file, kept }) as Promise<ReadRecording>;
  }

  /** Flies a drill again and marks it. */
  drill(type: WatchedType, lesson: Lesson, flown: DrillFlown): Promise<DrillMarked | { refused: string }> {
    return this.ask({ kind: 'drill', type, lesson, flown }) as Promise<DrillMarked | { refused: string }>;
  }

  /** Deals a round of abort or go again and marks it. */
  round(type: WatchedType, flown: RoundFlown): Promise<DrillMarked> {
    return this.ask({ kind: 'round', type, flown }) as Promise<DrillMarked>;
  }

  /** Flies a real start again on the twin of its aircraft, with one act done otherwise. */
  whatIf(starts: StartsOfTail, asked: WhatIfAsked): Promise<WhatIfAnswer | { refused: string }> {
    return this.ask({ kind: 'what-if', starts, asked }) as Promise<WhatIfAnswer | { refused: string }>;
  }

  report(report: ReportAsked): Promise<Uint8Array> {
    return this.ask({ kind: 'report', report }) as Promise<Uint8Array>;
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
    this.worker = null;
  }

  private ask(asked: Asked): Promise<Reckoned> {
    const worker = (this.worker ??= this.begin());
    const id = ++this.next;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      worker.postMessage({ id, asked });
    });
  }

  private begin(): Worker {
    const worker = new Worker(this.file);
    worker.unref();
    worker.on('message', ({ id, done, failed }: { id: number; done?: Reckoned; failed?: string }) => {
      const asked = this.waiting.get(id);
      this.waiting.delete(id);
      if (failed === undefined) asked?.resolve(done!);
      else asked?.reject(new Error(failed));
    });
    const lost = (error: Error): void => {
      // a thread that failed ends a moment later: another one may be at work by then
      if (this.worker !== worker) return;
      this.worker = null;
      for (const { reject } of this.waiting.values()) reject(error);
      this.waiting.clear();
    };
    worker.on('error', lost);
    worker.on('exit', () => lost(new Error('the thread that reckons has ended')));
    return worker;
  }
}
