export * from './simulator-parameters.ts';
