/** Something that would fail in flight: where in the type, what, and what to do about it. */
export interface Finding {
  /** the way down the type to the part that is meant */
  path: readonly (string | number)[];
  message: string;
  remedy: string;
}

export type Report = (path: Finding['path'], message: string, remedy: string) => void;
