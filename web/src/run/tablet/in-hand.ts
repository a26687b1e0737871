import type { TypeFile } from '@rouse/core/aircraft';
import { getJson } from '../../platform/api.ts';
import { TabletRun } from './tablet-run.ts';

let inHand: TabletRun | null = null;

/** The run of this tablet that is followed now; null where it is another one, or none. */
export const tabletRunInHand = (run: string): TabletRun | null => (inHand?.head.run === run ? inHand : null);

/** Takes a run of this tablet up; null where it has none of that name. */
export async function takeUpTabletRun(run: string): Promise<TabletRun | null> {
  // a browser that keeps nothing has no such run
  inHand = await TabletRun.takeUp(run, ({ id, version }) => getJson<TypeFile>(`/types/${id}/${version}`)).catch(() => null); // oxfmt-ignore
  return inHand;
}

export function leaveTabletRun(): void {
  inHand = null;
}
