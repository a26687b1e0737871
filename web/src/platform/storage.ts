/** Small settings of this browser. Private windows and full disks are met with the default, never with an error. */
export function readSetting(key: string): string | null {
  try {
    return window.localStorage.getItem(`rouse.${key}`);
  } catch {
    return null;
  }
}

export function writeSetting(key: string, value: string): void {
  try {
    window.localStorage.setItem(`rouse.${key}`, value);
  } catch {
    // kept for this page only
  }
}
