import { createAsyncThunk, createSlice } from '@reduxjs/toolkit';
import type { StandInLine, StandInState, Today } from '@rouse/core/contract';
import { getJson, postJson } from '../platform/api.ts';

export const loadToday = createAsyncThunk('today/load', () => getJson<Today>('/today'));
export const choosePreset = createAsyncThunk('today/preset', (asked: { aircraft: string; preset: string }) =>
  postJson<StandInState>('/stand-in/conditions', asked),
);
export const layLine = createAsyncThunk('today/line', (asked: { aircraft: string; line: StandInLine }) =>
  postJson<StandInState>('/stand-in/line', asked),
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
      .addMatcher(
        (action) => choosePreset.fulfilled.match(action) || layLine.fulfilled.match(action),
        (state, action: { payload: StandInState; meta: { arg: { aircraft: string } } }) => {
          const changed = state.today?.aircraft.find((a) => a.aircraft === action.meta.arg.aircraft);
          if (changed) changed.standIn = action.payload;
          state.failure = null;
        },
      )
      .addMatcher(
        (action) =>
          loadToday.rejected.match(action) || choosePreset.rejected.match(action) || layLine.rejected.match(action),
        (state, action: { error: { message?: string } }) => {
          state.failure = action.error.message ?? 'The server cannot be reached.';
        },
      );
  },
});

export const todayReducer = slice.reducer;
