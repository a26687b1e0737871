/** The texts of a type's folder, by their path in it: `type.yaml`, `procedure/start.yaml`, `charts/top.csv`. */
export type TypeFolder = Readonly<Record<string, string>>;

/** The tables of a folder: which columns each must have, may have, and by which columns a row is known. */
export const TABLES = {
  'channels.csv': {
    needed: ['id', 'label', 'short', 'least', 'most', 'decimals', 'resolution'],
    others: ['unit', 'source', 'engine', 'states', 'signal', 'scale', 'noise', 'sentence'],
    key: ['id'],
  },
  'limits.csv': {
    needed: ['limit', 'band', 'channel', 'phases', 'side', 'value', 'allowed', 'severity', 'then'],
    others: ['unit', 'hysteresis', 'inclusive', 'notWhile', 'source'],
    key: ['limit', 'band'],
  },
  'captions.csv': { needed: ['id', 'label', 'bit', 'severity', 'lit'], others: [], key: ['id'] },
  'electrical.csv': { needed: ['id', 'label', 'amps'], others: [], key: ['id'] },
  'cockpit.csv': {
    needed: ['control', 'label', 'zone', 'kind', 'moves', 'positions', 'key'],
    others: ['hand'],
    key: ['control'],
  },
  'equipment.csv': { needed: ['id', 'label', 'failure', 'why'], others: ['forbids'], key: ['id'] },
} as const;
export type TableName = keyof typeof TABLES;

/** Files of one map or list each; the first ones every type has. */
export const NEEDED_MAPS = ['type.yaml', 'loading.yaml', 'wind.yaml', 'performance.yaml', 'ways.yaml', 'aborts.yaml'] as const; // oxfmt-ignore
export const OTHER_MAPS = ['thermal.yaml', 'watch.yaml', 'ratings.yaml', 'simulator.yaml', 'conditions.yaml'] as const;
export const CHARTS = ['charts/top.csv', 'charts/mcp.csv', 'charts/never-exceed.csv'] as const;
export type MapName = (typeof NEEDED_MAPS)[number] | (typeof OTHER_MAPS)[number];

/** The folder beside the types that holds what they share: standard items, and sets of abort actions and plans. */
export const LIBRARY = 'library';

/** A set of abort actions and plans in the library. */
export const abortsFile = (name: string): string => `aborts/${name}.yaml`;

/** The file of a leg. */
export const legFile = (leg: string): string => `procedure/${leg}.yaml`;
