const DAY_MS = 86_400_000;

/** When a lesson is due again, in words. @param due and @param now ISO 8601 */
export function dueWords(due: string, now: string): string {
  const days = Math.ceil((Date.parse(due) - Date.parse(now)) / DAY_MS);
  if (days <= 0) return 'due today';
  return days === 1 ? 'due tomorrow' : `due in ${days} days`;
}
