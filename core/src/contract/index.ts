export * from './drafts.ts';
export * from './drill.ts';
export * from './drill-room.ts';
export * from './http.ts';
export * from './log.ts';
export * from './people.ts';
export * from './what-if.ts';
export { FRAME_HEADER, type LiveMessage, packFrame, type SourceState } from './live.ts';
export {
  CLEAN_LINE,
  type LineFaults,
  lineSchema,
  type Pace,
  PACES,
  type StandInAnswer,
  type StandInCommand,
  standInCommandSchema,
  type StandInLine,
} from './stand-in.ts';
