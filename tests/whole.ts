/** Whether what other tests tell in part is told in full, too: `npm test -- --whole` asks for it, before a release. */
export const WHOLE = process.env['ROUSE_WHOLE'] !== undefined;
