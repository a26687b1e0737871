export { type ChartLimit, chartLimit, type ContinuousOffset } from './limit.ts';
export {
  chartCheck,
  type ChartIssue,
  type ChartIssueCode,
  chartLookup,
  type ChartTable,
  chartTableSchema,
  type ChartValue,
} from './table.ts';
