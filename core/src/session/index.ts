export { type Answered, type Effects, NOTHING, type Stamper, type StartFigures, type Told } from './effects.ts';
export { CORRIDOR_STARTS, NO_PAST, pastOfTail, type TailPast } from './past.ts';
export { checkSeals, rowsBetween, traceBytes, traceDigest } from './seal.ts';
export { type Answer, createSession, RunSession, type SessionOptions, type SessionView } from './session.ts';
