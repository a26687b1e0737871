import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { attempt } from '@rouse/core/quantity';
import {
  bestOrder,
  criticalPath,
  generatorSequence,
  largestDeliveryFirst,
  lognormalFit,
  lognormalRemaining,
  type Step,
  uncertainPlan,
} from '@rouse/core/schedule';

const crew = (id: string, s: number, deps: string[] = []): Step => ({ id, kind: 'crew', deps, dur: { fixed: s } });
const wait = (id: string, s: number, deps: string[] = []): Step => ({ id, kind: 'wait', deps, dur: { fixed: s } });
const unsure = (id: string, median_s: number, deps: string[] = []): Step => ({
  id,
  kind: 'wait',
  deps,
  dur: { mu: Math.log(median_s), sigma: 0.3 },
});

/** Small networks of hands and waits in which every step needs only earlier ones. */
const network = fc
  .array(fc.tuple(fc.boolean(), fc.integer({ min: 1, max: 60 }), fc.nat(), fc.nat()), { minLength: 2, maxLength: 8 })
  .map((drawn) =>
    drawn.map(([hands, s, a, b], i): Step => {
      const deps = i === 0 ? [] : [...new Set([`s${a % i}`, ...(b % 3 === 0 ? [`s${b % i}`] : [])])];
      return hands ? crew(`s${i}`, s, deps) : wait(`s${i}`, s, deps);
    }),
  );

describe('the critical path', () => {
  const start = [crew('battery', 5), wait('align', 160, ['battery']), crew('walk', 60), wait('oil', 70, ['walk']), crew('lift', 5, ['align', 'oil'])]; // oxfmt-ignore

  test('a wait runs while the hands go on', () => {
    const path = criticalPath({ steps: start });
    expect(path.ready_s).toBe(170);
    expect(path.critical).toEqual(['battery', 'align', 'lift']);
    expect(path.slack['oil']).toBe(165 - 135);
  });

  test('nothing begins before what it needs, and the hands do one thing at a time', () => {
    fc.assert(
      fc.property(network, (steps) => {
        const { start: from, finish } = criticalPath({ steps });
        for (const s of steps) for (const d of s.deps) expect(from[s.id]!).toBeGreaterThanOrEqual(finish[d]! - 1e-9);
        const hands = steps.filter((s) => s.kind === 'crew');
        hands.slice(1).forEach((s, i) => expect(from[s.id]!).toBeGreaterThanOrEqual(finish[hands[i]!.id]! - 1e-9));
      }),
    );
  });

  test('what is critical has no slack, and a longer critical step makes it later', () => {
    fc.assert(
      fc.property(network, (steps) => {
        const path = criticalPath({ steps });
        for (const id of path.critical) expect(path.slack[id]).toBeCloseTo(0, 9);
        const [first] = path.critical;
        const longer = steps.map((s) =>
          s.id === first && 'fixed' in s.dur ? { ...s, dur: { fixed: s.dur.fixed + 7 } } : s,
        );
        expect(criticalPath({ steps: longer }).ready_s).toBeCloseTo(path.ready_s + 7, 9);
      }),
    );
  });

  test('a circle, a stranger, a double and an impossible order are named', () => {
    const refused = (steps: Step[], crew_order?: string[]) => attempt(() => criticalPath({ steps, crew_order }));
    expect(refused([crew('a', 1, ['b']), crew('b', 1, ['a'])])).toMatchObject({ error: 'CYCLE' });
    expect(refused([crew('a', 1, ['x'])])).toMatchObject({ error: 'UNKNOWN_DEPENDENCY' });
    expect(refused([crew('a', 1), crew('a', 1)])).toMatchObject({ error: 'DUPLICATE_ID' });
    expect(refused([crew('a', 1), crew('b', 1, ['a'])], ['b', 'a'])).toMatchObject({ error: 'ORDER_IMPOSSIBLE' });
  });
});

describe('the order of the hands', () => {
  test('the longest wait is begun first', () => {
    const steps = [crew('lamps', 10), crew('battery', 5), wait('align', 160, ['battery'])];
    expect(largestDeliveryFirst(steps)).toEqual(['battery', 'lamps']);
    expect(bestOrder({ steps })).toMatchObject({ best_s: 165, best_crew_order: ['battery', 'lamps'] });
  });

  test('the best of all orders is no later than the rule, and the rule is one of them', () => {
    fc.assert(
      fc.property(network, (steps) => {
        const best = bestOrder({ steps });
        const ready = (crew_order: string[]): number => criticalPath({ steps, crew_order }).ready_s;
        expect(ready(best.rule_crew_order)).toBeCloseTo(best.rule_s, 9);
        expect(best.best_s).toBeLessThanOrEqual(best.rule_s + 1e-9);
        expect(ready(best.best_crew_order)).toBeCloseTo(best.best_s, 9);
      }),
    );
  });
});

describe('durations', () => {
  test('a fit finds the median of what was drawn, and the prior holds it while there is little', () => {
    const durations_s = [50, 60, 72, 55, 66, 60];
    const fit = lognormalFit({ durations_s });
    expect(fit.median_s).toBeGreaterThan(55);
    expect(fit.median_s).toBeLessThan(65);
    const prior = { median_s: 120, sigma: 0.25, n: 3 };
    const pulled = lognormalFit({ durations_s, prior }).median_s;
    expect(pulled).toBeGreaterThan(fit.median_s);
    expect(pulled).toBeLessThan(120);
    expect(lognormalFit({ durations_s: [], prior }).median_s).toBeCloseTo(120, 9);
    expect(attempt(() => lognormalFit({ durations_s: [60] }))).toMatchObject({ error: 'INSUFFICIENT_DATA' });
  });

  test('a late wait does not owe its average', () => {
    const of = (elapsed_s: number) =>
      lognormalRemaining({ mu: Math.log(60), sigma: 0.3, elapsed_s, p: [0.5] } as Parameters<
        typeof lognormalRemaining
      >[0]);
    expect(of(0).remaining_s[0]).toBeCloseTo(60, 6);
    expect(of(58).remaining_s[0]!).toBeGreaterThan(2);
    expect(of(90).remaining_s[0]!).toBeGreaterThan(0);
    expect(of(30).status).toBe('NORMAL');
    expect(['LATE', 'OVERDUE']).toContain(of(100).status);
  });
});

describe('an uncertain plan', () => {
  const steps = [crew('battery', 5), unsure('align', 160, ['battery']), crew('walk', 60), unsure('oil', 70, ['walk'])];

  test('the same seed gives the same plan, another a like one', () => {
    const plan = (seed: number) => uncertainPlan({ steps, seed, n: 2000 });
    expect(plan(3)).toEqual(plan(3));
    expect(Math.abs(plan(3).p50 / plan(4).p50 - 1)).toBeLessThan(0.03);
  });

  test('its percentiles rise, and a sure plan has none', () => {
    const { p10, p50, p80, p90, p95, display } = uncertainPlan({ steps });
    const rising = [p10, p50, p80, p90, p95];
    expect(rising).toEqual(rising.toSorted((a, b) => a - b));
    expect(display.p80_min * 60).toBeGreaterThanOrEqual(p80);
    const sure = uncertainPlan({ steps: [crew('a', 5), wait('b', 10, ['a'])] });
    expect(sure.p10).toBe(15);
    expect(sure.p95).toBe(15);
    expect(sure.criticality).toEqual({ a: 1, b: 1 });
  });

  test('the generator gives numbers between nought and one that look even', () => {
    const u = generatorSequence(7, 4000).u32.map((n) => (n + 0.5) / 2 ** 32);
    expect(Math.min(...u)).toBeGreaterThan(0);
    expect(Math.max(...u)).toBeLessThan(1);
    expect(generatorSequence(7, 10).u32).toEqual(generatorSequence(7, 4000).u32.slice(0, 10));
    expect(u.reduce((a, b) => a + b, 0) / u.length).toBeCloseTo(0.5, 1);
  });
});
