/** The answers of the server that the service worker keeps. */
export const ANSWERS = 'answers';
/** When an answer that is given again was given, ISO 8601; an answer of the server itself has no such header. */
export const KEPT_AT = 'x-rouse-kept-at';
/** Said to a newer service worker that waits. */
export const USE_NOW = 'use-now';
