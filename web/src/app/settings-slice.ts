import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { readSetting, writeSetting } from '../platform/storage.ts';
import { UNIT_CHOICES, type UnitKind, type Units, USUAL_UNITS } from './unit-choices.ts';

export type Light = 'auto' | 'day' | 'night' | 'sun';
const LIGHTS: readonly Light[] = ['auto', 'day', 'night', 'sun'];

export interface Settings {
  light: Light;
  voice: boolean;
  units: Units;
}

function readUnits(): Units {
  const kept = readSetting('units')?.split(' ') ?? [];
  const kinds = Object.keys(UNIT_CHOICES) as UnitKind[];
  return Object.fromEntries(
    kinds.map((kind) => [kind, UNIT_CHOICES[kind].find((u) => kept.includes(u)) ?? USUAL_UNITS[kind]]),
  ) as Units;
}

function initial(): Settings {
  const light = readSetting('light');
  return {
    light: LIGHTS.find((l) => l === light) ?? 'auto',
    voice: readSetting('voice') !== 'off',
    units: readUnits(),
  };
}

const slice = createSlice({
  name: 'settings',
  initialState: initial,
  reducers: {
    lightChanged(state, action: PayloadAction<Light>) {
      state.light = action.payload;
    },
    unitToggled(state, action: PayloadAction<UnitKind>) {
      const kind = action.payload;
      const [first, second] = UNIT_CHOICES[kind];
      Object.assign(state.units, { [kind]: state.units[kind] === first ? second : first });
    },
    voiceToggled(state) {
      state.voice = !state.voice;
    },
  },
});

export const { lightChanged, unitToggled, voiceToggled } = slice.actions;
export const settingsReducer = slice.reducer;
export { LIGHTS };

/** Puts the light on the document and keeps the settings for next time. */
export function applySettings({ light, voice, units }: Settings): void {
  if (light === 'auto') delete document.documentElement.dataset['light'];
  else document.documentElement.dataset['light'] = light;
  writeSetting('light', light);
  writeSetting('voice', voice ? 'on' : 'off');
  writeSetting('units', Object.values(units).join(' '));
}
