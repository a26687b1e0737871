import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { runReducer } from '../run/run-slice.ts';
import { applySettings, settingsReducer } from './settings-slice.ts';
import { serverData } from './server-data.ts';

export const store = configureStore({
  reducer: { [serverData.reducerPath]: serverData.reducer, run: runReducer, settings: settingsReducer },
  middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }).concat(serverData.middleware),
  // answers are drawn when they are there: a page that is being opened has no frame to wait for
  enhancers: (defaults) => defaults({ autoBatch: { type: 'tick' } }),
});

export type AppState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<AppState>();

let applied = store.getState().settings;
applySettings(applied);
store.subscribe(() => {
  const { settings } = store.getState();
  if (settings === applied) return;
  applied = settings;
  applySettings(settings);
});
