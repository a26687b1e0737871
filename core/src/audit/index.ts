export { auditType, collect } from './audit.ts';
export type { Finding } from './finding.ts';
export { auditFlight, type Flight, flightsOf } from './flown.ts';
