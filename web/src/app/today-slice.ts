import { createAsyncThunk, createSlice } from '@reduxjs/toolkit';
import type { StandInState, Today } from '@rouse/core/contract';
import { getJson, postJson } from '../platform/api.ts';

export const loadToday = createAsyncThunk('today/load', () => getJson<Today>('/today'));
export const choosePreset = createAsyncThunk('today/preset', (preset: string) =>
  postJson<StandInState>('/stand-in/conditions', { preset }),
);

export interface TodayState {
  today: Today | null;
  failure: string | null;
}

const slice = createSlice({
  name: 'today',
  initialState: { today: null, failure: null } as TodayState,
  reducers: {},
  extraReducers: (builder) => {
    builder
      .addCase(loadToday.fulfilled, (state, action) => {
        state.today = action.payload;
        state.failure = null;
      })
      .addCase(choosePreset.fulfilled, (state, action) => {
        if (state.today) state.today.standIn = action.payload;
        state.failure = null;
      })
      .addMatcher(
        (action) => loadToday.rejected.match(action) || choosePreset.rejected.match(action),
        (state, action: { error: { message?: string } }) => {
          state.failure = action.error.message ?? 'The server cannot be reached.';
        },
      );
  },
});

export const todayReducer = slice.reducer;
