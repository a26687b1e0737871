export { errorOf, fitTwin, type TwinError, type TwinFit } from './fit-twin.ts';
export { type RecordedAct, type RecordedStart, recordedStart, type StartDay } from './recorded-start.ts';
export { AS_NEW, flyTwin, type TwinFigures } from './twin-flight.ts';
export { type RealWhatIf, whatIfReal, withActChanged } from './what-if-real.ts';
