export { canonicalJson, chainEntries, type ChainFault, checkChain, digestOf, type Draft, hashOf } from './chain.ts';
export { type Entry, parseEntry, type Payload, payloadSchema, type Stamp } from './entries.ts';
export { estimateWait, type WaitEstimate } from './estimate.ts';
export {
  type Acceptance,
  acceptFromPilot,
  type CaptionCount,
  conditionOf,
  countCaptions,
  readItem,
  type Reading,
} from './judge.ts';
export {
  legSpans,
  type LegSpan,
  type LegState,
  meanwhileItems,
  nextItems,
  notDone,
  type OpenLoop,
  passage,
  presentItem,
  readyIn,
  stillOpen,
} from './plan.ts';
export { Runner } from './runner.ts';
export { findItem, itemState, type ItemState, reduceRun, type RunState, workingList } from './state.ts';
export { type EntryWords, sayEntry } from './words.ts';
