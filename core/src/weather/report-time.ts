import { needNumber, Refused } from '../quantity/index.ts';

const MINUTE_ms = 60_000;

/**
 * The moment a report's day and time mean: of this, the previous and the next month the one nearest to now.
 * @param input.now ISO 8601
 * @throws Refused BAD_TIME
 */
export function reportTime(input: { day: number; hour: number; minute: number; now: string }): {
  time: string;
  age_min: number;
  status: 'FUTURE' | 'FRESH' | 'OLD' | 'STALE';
} {
  const day = needNumber(input.day, 'day', 1, 31, 'BAD_TIME');
  const hour = needNumber(input.hour, 'hour', 0, 23, 'BAD_TIME');
  const minute = needNumber(input.minute, 'minute', 0, 59, 'BAD_TIME');
  const now_ms = Date.parse(input.now);
  if (!Number.isFinite(now_ms)) throw new Refused('BAD_TIME', 'now');
  const now = new Date(now_ms);
  const candidates = [0, -1, 1]
    .map((months) => new Date(Date.UTC(now.getUTCFullYear(), now.getUTCMonth() + months, day, hour, minute)))
    .filter((date) => date.getUTCDate() === day);
  const nearest = candidates.toSorted((a, b) => Math.abs(+a - now_ms) - Math.abs(+b - now_ms))[0];
  if (!nearest) throw new Refused('BAD_TIME', 'day');
  const age_min = (now_ms - +nearest) / MINUTE_ms;
  return {
    time: nearest.toISOString().replace('.000Z', 'Z'),
    age_min,
    status: age_min < -10 ? 'FUTURE' : age_min <= 70 ? 'FRESH' : age_min <= 180 ? 'OLD' : 'STALE',
  };
}
