import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { readSetting, writeSetting } from '../platform/storage.ts';

export type Light = 'auto' | 'day' | 'night' | 'sun';
const LIGHTS: readonly Light[] = ['auto', 'day', 'night', 'sun'];

export interface Settings {
  light: Light;
  voice: boolean;
}

function initial(): Settings {
  const light = readSetting('light');
  return { light: LIGHTS.find((l) => l === light) ?? 'auto', voice: readSetting('voice') !== 'off' };
}

const slice = createSlice({
  name: 'settings',
  initialState: initial,
  reducers: {
    lightChanged(state, action: PayloadAction<Light>) {
      state.light = action.payload;
    },
    voiceToggled(state) {
      state.voice = !state.voice;
    },
  },
});

export const { lightChanged, voiceToggled } = slice.actions;
export const settingsReducer = slice.reducer;
export { LIGHTS };

/** Puts the light on the document and keeps the settings for next time. */
export function applySettings({ light, voice }: Settings): void {
  if (light === 'auto') delete document.documentElement.dataset['light'];
  else document.documentElement.dataset['light'] = light;
  writeSetting('light', light);
  writeSetting('voice', voice ? 'on' : 'off');
}
