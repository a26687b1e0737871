import { conditionsOf, SimulatedCockpit } from '@rouse/core/simulator';
import { writeDeviceLine, writeNmeaFrame } from '@rouse/core/format';
import {
  CLEAN_LINE,
  lineSchema,
  type Pace,
  type StandInAnswer,
  type StandInCommand,
  type StandInLine,
} from '@rouse/core/contract';
import type { WatchedType } from '@rouse/core/aircraft';
import { BadLine } from './bad-line.ts';

const TICK_MS = 20;
/** a machine that slept does not run the aircraft through the night to catch up */
const MAX_BEHIND_MS = 2000;

/** Where the lines of a unit go. */
export interface Carrier {
  send(line: string): void;
  use(transport: StandInLine['transport']): void;
}

/** The stand-in as an engine data unit: a simulated aircraft in real time, one frame every 20 ms. */
export class Unit {
  readonly type: WatchedType;
  private readonly carrier: Carrier;
  private readonly badLine: BadLine;
  private cockpit: SimulatedCockpit;
  private preset: string;
  private line: StandInLine = CLEAN_LINE;
  private streaming = true;
  private pace: Pace = 1;
  /** twenty-millisecond beats of the wall clock; a hurried aircraft lives several frames in each */
  private beats = 0;
  private frames = 0;
  /** by the clock that only goes forward: a wall clock that is set back must not hold the aircraft */
  private epoch_ms = performance.now();
  private timer: NodeJS.Timeout | undefined;

  constructor(type: WatchedType, carrier: Carrier) {
    this.type = type;
    this.carrier = carrier;
    this.badLine = new BadLine((line) => carrier.send(line), Math.random, setTimeout);
    this.preset = type.standIn[0]!.id;
    this.cockpit = this.prepare(this.preset, 1);
  }

  start(): void {
    this.epoch_ms = performance.now();
    this.frames = 0;
    this.beats = 0;
    this.next();
  }

  stop(): void {
    clearTimeout(this.timer);
  }

  obey(command: StandInCommand): StandInAnswer {
    switch (command.cmd) {
      case 'reset':
        if (!this.type.standIn.some((p) => p.id === command.preset))
          return { ok: false, message: `there are no conditions named ${command.preset}` };
        this.preset = command.preset;
        this.cockpit = this.prepare(command.preset, command.seed ?? Date.now() & 0xffff);
        this.streaming = true;
        this.pace = 1;
        break;
      case 'move':
        try {
          // all of one act in the same moment: a hand that lets go and holds again never lets go
          for (const action of command.actions) this.cockpit.move(action);
        } catch (error) {
          return { ok: false, message: error instanceof Error ? error.message : String(error) };
        }
        break;
      case 'stream':
        this.streaming = command.on;
        break;
      case 'line': {
        const { cmd: _cmd, type: _type, ...changes } = command;
        this.line = lineSchema.parse({ ...this.line, ...withoutGaps(changes) });
        this.badLine.faults = this.line;
        this.carrier.use(this.line.transport);
        break;
      }
      case 'pace':
        this.pace = command.times;
        break;
      case 'state':
        break;
    }
    return {
      ok: true,
      type: this.type.id,
      preset: this.preset,
      streaming: this.streaming,
      line: this.line,
      pace: this.pace,
      t_s: this.frames * 0.02,
      epoch_ms: performance.timeOrigin + this.epoch_ms,
    };
  }

  private prepare(id: string, seed: number): SimulatedCockpit {
    const preset = this.type.standIn.find((p) => p.id === id)!;
    return new SimulatedCockpit(this.type, conditionsOf(this.type, preset), preset.faults, seed);
  }

  private sendFrame(values: Float64Array): void {
    const { channels, transducers } = this.type;
    const t_s = this.frames * 0.02;
    if (this.line.format === 'json') this.badLine.carry(writeDeviceLine(t_s, values, channels));
    else
      for (const sentence of writeNmeaFrame(t_s, values, channels, transducers).split(/(?<=\n)/))
        this.badLine.carry(sentence);
  }

  /** Self-correcting: the wait is measured from the epoch, so that errors do not add up. */
  private next(): void {
    const late = performance.now() - (this.epoch_ms + (this.beats + 1) * TICK_MS);
    if (late > MAX_BEHIND_MS) this.epoch_ms += late;
    this.timer = setTimeout(
      () => {
        this.beats++;
        for (let i = 0; i < this.pace; i++) {
          this.frames++;
          const values = this.cockpit.tick();
          if (this.streaming) this.sendFrame(values);
        }
        this.next();
      },
      Math.max(0, -late),
    );
  }
}

/** What was asked for, without what was left out. */
function withoutGaps(changes: object): object {
  return Object.fromEntries(Object.entries(changes).filter(([, v]) => v !== undefined));
}
