export { type Account, accountsOf } from './accounts.ts';
export { type Book, type BookEntry, bookOf, type BookedRun } from './book.ts';
export { type DueItem, type DueState, dueState } from './due.ts';
