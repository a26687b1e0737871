export { RatingBooks, type RatingEvent, type RatingNow } from './books.ts';
export { type RatingDefinition, ratingDefinition } from './definitions.ts';
export { RatingLedger } from './ledger.ts';
export type {
  LedgerConfig,
  LedgerEventType,
  LedgerListener,
  LedgerRating,
  OverMaximum,
  Period,
  RatingBalance,
} from './model.ts';
export { type LedgerReport, ratingLedger } from './record.ts';
