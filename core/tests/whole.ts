/** Whether what other tests tell in part is told in full, too: `npm test -- --whole` asks for it, before a release. */
export const WHOLE = process.env['ROUSE_WHOLE'] !== undefined;

/** How often a property is tried by chance: a third of it where not the whole is asked for. */
export const tries = (whole: number): number => (WHOLE ? whole : Math.ceil(whole / 3));
