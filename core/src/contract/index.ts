export * from './http.ts';
export { FRAME_HEADER, type LiveMessage, packFrame, type SourceState } from './live.ts';
export { type StandInAnswer, type StandInCommand, standInCommandSchema } from './stand-in.ts';
