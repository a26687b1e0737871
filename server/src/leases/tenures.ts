import type { TypeFile } from '@rouse/core/aircraft';
import { type AircraftRow, getType, listAircraft } from '../db/aircraft.ts';
import { listDevices } from '../db/devices.ts';
import { asOperator } from '../db/pool.ts';
import { DEMO } from '../demo/identity.ts';
import type { Lines } from '../device/lines.ts';
import type { UnitListener } from '../device/listener.ts';
import type { Fleets } from '../live/fleets.ts';
import { LiveAircraft, type LiveDeps } from '../live/live-aircraft.ts';

export interface TenuresOptions {
  live: Omit<LiveDeps, 'operatorId' | 'fence'>;
  fleets: Fleets;
  lines: Lines;
  /** doors of this machine for the tails of the demo */
  listeners: ReadonlyMap<string, UnitListener>;
}

/** The fleets that this server watches: taken up with their aircraft, units and open runs, and let go whole. */
export class Tenures {
  private readonly options: TenuresOptions;
  private readonly fences = new Map<string, number>();

  constructor(options: TenuresOptions) {
    this.options = options;
  }

  /** An aircraft as it is watched here. */
  enlist(operatorId: string, row: AircraftRow, type: TypeFile): LiveAircraft {
    const { live, listeners } = this.options;
    const aircraft = new LiveAircraft({ ...live, operatorId, fence: this.fences.get(operatorId)! }, row, type);
    aircraft.wired = operatorId === DEMO.operatorId && listeners.has(row.tail);
    return aircraft;
  }

  /** Every aircraft of an operator, the units that may speak for them, and the runs that go on. */
  async takeUp(operatorId: string, fence: number): Promise<void> {
    const { live, fleets, lines } = this.options;
    this.fences.set(operatorId, fence);
    try {
      const fleet = fleets.of(operatorId);
      await asOperator(live.pool, operatorId, async (tx) => {
        const types = new Map<string, TypeFile>();
        for (const row of await listAircraft(tx)) {
          const key = `${row.typeId}/${row.typeVersion}`;
          const type = types.get(key) ?? (await getType(tx, row.typeId, row.typeVersion));
          types.set(key, type);
          fleet.add(this.enlist(operatorId, row, type));
        }
        for (const { deviceId, aircraftId, tokenDigest, datagramKey } of await listDevices(tx))
          if (tokenDigest && datagramKey)
            lines.add({ operatorId, deviceId, tokenDigest, datagramKey, sink: fleet.of(aircraftId) });
      });
      await fleet.recover();
    } catch (error) {
      this.letGo(operatorId);
      throw error;
    }
  }

  letGo(operatorId: string): void {
    const { fleets, lines, listeners } = this.options;
    this.fences.delete(operatorId);
    lines.endAll(operatorId);
    if (operatorId === DEMO.operatorId) for (const listener of listeners.values()) listener.hangUp();
    fleets.drop(operatorId);
  }
}
