import type { WatchedType } from '@rouse/core/aircraft';
import { type OwnKeys, readStick, type StickSetting, withOwnKeys } from '@rouse/core/drill';
import { useMemo, useState } from 'react';
import { readSetting, writeSetting } from '../../platform/storage.ts';

const keysKeptAs = (type: string): string => `keys.${type}`;
const stickKeptAs = (device: string): string => `stick.${device}`;

function readKeys(type: string): OwnKeys {
  try {
    const kept = JSON.parse(readSetting(keysKeptAs(type)) ?? '{}') as unknown;
    return typeof kept === 'object' && kept !== null ? (kept as OwnKeys) : {};
  } catch {
    return {};
  }
}

/** The type with the keys that are kept on this device for its controls, and the way to change them. */
export function useOwnKeys(type: WatchedType | undefined): {
  type: WatchedType | undefined;
  bind: (control: string, key: string) => void;
  forget: () => void;
} {
  const [changed, setChanged] = useState(0);
  const own = useMemo(() => {
    void changed;
    return type?.cockpit ? { ...type, cockpit: withOwnKeys(type.cockpit, readKeys(type.id)) } : type;
  }, [type, changed]);
  const keep = (keys: OwnKeys): void => {
    writeSetting(keysKeptAs(type!.id), JSON.stringify(keys));
    setChanged((n) => n + 1);
  };
  return {
    type: own,
    bind: (control, key) => keep({ ...readKeys(type!.id), [control]: key }),
    forget: () => keep({}),
  };
}

/** How one game controller is read, as it is kept on this device. */
export const stickOf = (device: string): StickSetting => readStick(readSetting(stickKeptAs(device)));
export const keepStick = (device: string, setting: StickSetting): void =>
  writeSetting(stickKeptAs(device), JSON.stringify(setting));

/** The first game controller that is plugged in. */
export const pluggedIn = (): Gamepad | null => navigator.getGamepads().find((p) => p !== null) ?? null;
