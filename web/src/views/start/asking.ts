/** Which note the pilot is typing for the present item. */
export type Asking = 'fault' | 'skip' | null;
