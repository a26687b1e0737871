export { convert, type ConvertResult } from './convert.ts';
export { type FigureKind, roundConservative, type RoundDirection, type RoundResult, roundStep } from './rounding.ts';
