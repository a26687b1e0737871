import { conditionsOf, SimulatedCockpit } from '@rouse/core/simulator';
import { writeDeviceLine } from '@rouse/core/format';
import type { StandInAnswer, StandInCommand } from '@rouse/core/contract';
import type { WatchedType } from '@rouse/core/aircraft';

const TICK_MS = 20;
/** a machine that slept does not run the aircraft through the night to catch up */
const MAX_BEHIND_MS = 500;

/** The stand-in as an engine data unit: a simulated aircraft in real time, one JSON line every 20 ms. */
export class Unit {
  private readonly type: WatchedType;
  private readonly send: (line: string) => void;
  private cockpit: SimulatedCockpit;
  private preset: string;
  private streaming = true;
  private frames = 0;
  private epoch_ms = Date.now();
  private timer: NodeJS.Timeout | undefined;

  constructor(type: WatchedType, send: (line: string) => void) {
    this.type = type;
    this.send = send;
    this.preset = type.standIn[0]!.id;
    this.cockpit = this.prepare(this.preset, 1);
  }

  start(): void {
    this.epoch_ms = Date.now();
    this.frames = 0;
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
        break;
      case 'move':
        try {
          const { control, to, release_s } = command;
          this.cockpit.move(release_s === undefined ? { control, to } : { control, to, release_s });
        } catch (error) {
          return { ok: false, message: error instanceof Error ? error.message : String(error) };
        }
        break;
      case 'stream':
        this.streaming = command.on;
        break;
      case 'state':
        break;
    }
    return {
      ok: true,
      preset: this.preset,
      streaming: this.streaming,
      t_s: this.frames * 0.02,
      epoch_ms: this.epoch_ms,
    };
  }

  private prepare(id: string, seed: number): SimulatedCockpit {
    const preset = this.type.standIn.find((p) => p.id === id)!;
    return new SimulatedCockpit(this.type, conditionsOf(preset), preset.faults, seed);
  }

  /** Self-correcting: the wait is measured from the epoch, so that errors do not add up. */
  private next(): void {
    const late = Date.now() - (this.epoch_ms + (this.frames + 1) * TICK_MS);
    if (late > MAX_BEHIND_MS) this.epoch_ms += late;
    this.timer = setTimeout(
      () => {
        this.frames++;
        const values = this.cockpit.tick();
        if (this.streaming) this.send(writeDeviceLine(this.frames * 0.02, values, this.type.channels));
        this.next();
      },
      Math.max(0, -late),
    );
  }
}
