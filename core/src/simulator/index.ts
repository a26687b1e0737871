export { conditionsOf, SimulatedCockpit } from './cockpit.ts';
export { coldControls, type Controls, type EngineSelector } from './inputs.ts';
export { Instruments } from './instruments.ts';
export { readSignal, setInput, type SignalValue } from './signals.ts';
export { type CheckedOutcome, runScenario, type Scenario, scenarioSchema } from './scenario.ts';
export { type Conditions, createSimulator, Simulator, TICK_S } from './simulator.ts';
export { NormalSource } from './random.ts';
