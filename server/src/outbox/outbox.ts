import { appendFile, type FileHandle, mkdir, open, readdir, rm } from 'node:fs/promises';
import path from 'node:path';
import type { Logger } from 'pino';
import { decodeRecord, encodeRecord, type OutboxRecord } from './record.ts';

const SEGMENT = /^(\d{8})\.log$/;
/** a segment that is this long is followed by the next, and let go when it is stored */
const SEGMENT_BYTES = 2 * 1024 * 1024;
const READ_BYTES = 256 * 1024;
const DISK_AGAIN_MS = 300;
const NEWLINE = 10;

interface Segment {
  number: number;
  file: FileHandle;
  /** bytes that are on the disk for certain */
  kept: number;
}

/** A record with the place behind it. */
export interface Read {
  record: OutboxRecord;
  segment: number;
  end: number;
}

/**
 * What the server has promised to keep, in the order in which it happened: an append-only file on the local disk, synced
 * before anything is acknowledged. The drain reads behind and stores it in the database.
 */
export class Outbox {
  private readonly dir: string;
  private readonly log: Logger;
  private readonly segments: Segment[] = [];
  private pending: { text: string; kept: () => void }[] = [];
  private writing: Promise<void> | null = null;
  private closed = false;
  private onKept: () => void = () => undefined;
  /** records that were appended and are not in the database, entries counted one by one */
  waiting = 0;
  /** the disk does not take what is written */
  diskTrouble: string | null = null;

  private constructor(dir: string, log: Logger) {
    this.dir = dir;
    this.log = log;
  }

  /** Opens the outbox of a folder. What a kill cut off in the middle was never acknowledged and is taken away. */
  static async open(dir: string, log: Logger): Promise<Outbox> {
    const outbox = new Outbox(dir, log);
    await mkdir(dir, { recursive: true, mode: 0o700 });
    const numbers = (await readdir(dir)).flatMap((name) => Number(SEGMENT.exec(name)?.[1] ?? NaN) || []);
    for (const number of numbers.toSorted((a, b) => a - b)) await outbox.takeUp(number);
    if (outbox.segments.length === 0) await outbox.begin(1);
    return outbox;
  }

  /** Resolves when the record is on the disk; it never gives up. */
  append(record: OutboxRecord): Promise<void> {
    this.waiting += weightOf(record);
    return new Promise((kept) => {
      this.pending.push({ text: encodeRecord(record), kept });
      this.writing ??= this.write().finally(() => (this.writing = null));
    });
  }

  /** Calls back whenever there is something new to read. */
  follow(onKept: () => void): void {
    this.onKept = onKept;
  }

  /** The records after a place, as many as lie in one reading; none when all were read. @param end bytes read of that segment */
  async read(segment: number, end: number): Promise<Read[]> {
    for (const s of this.segments) {
      if (s.number < segment) continue;
      const from = s.number === segment ? end : 0;
      if (from < s.kept) return this.readFrom(s, from);
    }
    return [];
  }

  /** What lies before this place is in the database: whole segments before it are let go. */
  async stored(segment: number, end: number): Promise<void> {
    while (this.segments.length > 1 && (this.segments[0]!.number < segment || this.isRead(segment, end))) {
      const done = this.segments.shift()!;
      await done.file.close();
      await rm(this.path(done.number));
    }
  }

  /** How many bytes are kept before a place. */
  bytesTo(segment: number, end: number): number {
    return this.segments.reduce((sum, s) => (s.number < segment ? sum + s.kept : sum), end);
  }

  /** A record that nothing can store is kept beside the segments. */
  async setAside(record: OutboxRecord): Promise<void> {
    await appendFile(path.join(this.dir, 'refused.log'), encodeRecord(record), { mode: 0o600 });
  }

  /** The first segment that can be read. */
  get start(): number {
    return this.segments[0]!.number;
  }

  async close(): Promise<void> {
    await this.writing;
    this.closed = true;
    for (const { file } of this.segments) await file.close();
  }

  private isRead(segment: number, end: number): boolean {
    const [first] = this.segments;
    return first!.number === segment && first!.kept === end && this.segments.length > 1;
  }

  private path(number: number): string {
    return path.join(this.dir, `${String(number).padStart(8, '0')}.log`);
  }

  private async begin(number: number): Promise<void> {
    const file = await open(this.path(number), 'wx+', 0o600);
    this.segments.push({ number, file, kept: 0 });
    const folder = await open(this.dir, 'r');
    await folder.sync();
    await folder.close();
  }

  private async takeUp(number: number): Promise<void> {
    const file = await open(this.path(number), 'r+');
    const { size } = await file.stat();
    const segment = { number, file, kept: size };
    this.segments.push(segment);
    const whole = await this.wholeBytes(segment);
    if (whole < size) {
      this.log.warn({ segment: number, bytes: size - whole }, 'the outbox ends in a record that was cut off');
      await file.truncate(whole);
      segment.kept = whole;
    }
    for (let at = 0; at < segment.kept;) {
      const read = await this.readFrom(segment, at);
      for (const { record } of read) this.waiting += weightOf(record);
      const last = read[read.length - 1];
      if (!last) break;
      at = last.end;
    }
  }

  /** Length up to the last line end. */
  private async wholeBytes({ file, kept }: Segment): Promise<number> {
    const buffer = Buffer.alloc(READ_BYTES);
    for (let to = kept; to > 0;) {
      const from = Math.max(0, to - READ_BYTES);
      await file.read(buffer, 0, to - from, from);
      const at = buffer.subarray(0, to - from).lastIndexOf(NEWLINE);
      if (at >= 0) return from + at + 1;
      to = from;
    }
    return 0;
  }

  private async readFrom(segment: Segment, from: number): Promise<Read[]> {
    const { file, kept, number } = segment;
    let length = Math.min(READ_BYTES, kept - from);
    for (;;) {
      const { buffer } = await file.read(Buffer.alloc(length), 0, length, from);
      const last = buffer.lastIndexOf(NEWLINE);
      if (last < 0 && from + length < kept) {
        length = Math.min(2 * length, kept - from);
        continue;
      }
      const out: Read[] = [];
      for (let at = 0; at <= last;) {
        const end = buffer.indexOf(NEWLINE, at);
        const record = decodeRecord(buffer.toString('utf8', at, end));
        at = end + 1;
        if (record) out.push({ record, segment: number, end: from + at });
        else this.log.error({ segment: number, at: from + at }, 'a record of the outbox is damaged and is left out');
      }
      return out;
    }
  }

  private async write(): Promise<void> {
    while (this.pending.length > 0 && !this.closed) {
      const segment = this.segments[this.segments.length - 1]!;
      const taken = this.pending;
      this.pending = [];
      const bytes = Buffer.from(taken.map((p) => p.text).join(''));
      try {
        for (let done = 0; done < bytes.length;)
          done += (await segment.file.write(bytes, done, bytes.length - done, segment.kept + done)).bytesWritten;
        await segment.file.datasync();
      } catch (error) {
        this.pending = [...taken, ...this.pending];
        await this.troubled(segment, error);
        continue;
      }
      this.diskTrouble = null;
      segment.kept += bytes.length;
      for (const { kept } of taken) kept();
      this.onKept();
      // whoever reads behind is never quite at the end while much is written: the writer turns the leaf
      if (segment.kept >= SEGMENT_BYTES) await this.begin(segment.number + 1).catch(() => undefined);
    }
  }

  /** A disk that is full, or gone: what was half written is taken back, and it is tried again. */
  private async troubled({ file, kept }: Segment, error: unknown): Promise<void> {
    if (this.diskTrouble === null) this.log.error({ err: error }, 'the outbox cannot be written; it is tried again');
    this.diskTrouble = error instanceof Error ? error.message : String(error);
    await file.truncate(kept).catch(() => undefined);
    await new Promise((resolve) => setTimeout(resolve, DISK_AGAIN_MS));
  }
}

export function weightOf(record: OutboxRecord): number {
  return record.kind === 'entries' ? record.entries.length : 0;
}
