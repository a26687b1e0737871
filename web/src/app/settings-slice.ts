import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { readSetting, writeSetting } from '../platform/storage.ts';
import { UNIT_CHOICES, type UnitKind, type Units, USUAL_UNITS } from './unit-choices.ts';

export type Light = 'auto' | 'day' | 'night' | 'sun';
const LIGHTS: readonly Light[] = ['auto', 'day', 'night', 'sun'];
/** Times the browser's own size. */
export const TEXT_SIZES = [1, 1.25, 1.5, 2] as const;
export type TextSize = (typeof TEXT_SIZES)[number];
/** By what an item can be answered beside keys and touch. */
export const ANSWERS = ['hand', 'headset', 'words'] as const;
export type Answers = (typeof ANSWERS)[number];

export interface Settings {
  light: Light;
  voice: boolean;
  units: Units;
  textSize: TextSize;
  answers: Answers;
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
    textSize: TEXT_SIZES.find((size) => String(size) === readSetting('text-size')) ?? 1,
    answers: ANSWERS.find((by) => by === readSetting('answers')) ?? 'hand',
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
    textSizeChanged(state, action: PayloadAction<TextSize>) {
      state.textSize = action.payload;
    },
    answersChanged(state, action: PayloadAction<Answers>) {
      state.answers = action.payload;
    },
    voiceToggled(state) {
      state.voice = !state.voice;
    },
  },
});

export const { answersChanged, lightChanged, textSizeChanged, unitToggled, voiceToggled } = slice.actions;
export const settingsReducer = slice.reducer;
export { LIGHTS };

/** Puts light and size of text on the document and keeps the settings for next time. */
export function applySettings({ light, voice, units, textSize, answers }: Settings): void {
  if (light === 'auto') delete document.documentElement.dataset['light'];
  else document.documentElement.dataset['light'] = light;
  document.documentElement.style.setProperty('--text-size', String(textSize));
  writeSetting('text-size', String(textSize));
  writeSetting('answers', answers);
  writeSetting('light', light);
  writeSetting('voice', voice ? 'on' : 'off');
  writeSetting('units', Object.values(units).join(' '));
}
