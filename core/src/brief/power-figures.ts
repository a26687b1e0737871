import { poweredOf } from '../aircraft/index.ts';
import { chartLimit, chartLookup } from '../chart/index.ts';
import { AFTER_FAILURE, LOW_HOVER_ft, oeiMasses, oeiRequiredRating, wornBy } from '../power/index.ts';
import { hoverAgainstLimit, type HoverFigure } from '../procedure/index.ts';
import type { Day } from './day.ts';
import { type Figure, need } from './figure.ts';
import type { BriefFigures } from './result.ts';

type PowerFigures = Pick<
  BriefFigures,
  'topLimit' | 'mcpLimit' | 'neverExceed_kt' | 'hoverIge' | 'hoverOge' | 'oei' | 'oeiAtLift'
>;

/** What the engines give in this air against what a hover takes, with all of them and with one. */
export function powerFigures({ context, charted, air, inAir }: Day, liftMass_kg: Figure<number>): PowerFigures {
  const { type } = context;
  const charts = { TOP: type.performance.chart.TOP, MCP: type.performance.chart.MCP };
  const limit = (rating: 'TOP' | 'MCP'): Figure<number> =>
    inAir(() => chartLimit({ rating, pa_ft: charted.pa_ft, oat_C: air.oat_C, tables: charts }).display.limit);
  const hover = (skid_height_ft: number | null): Figure<HoverFigure> =>
    inAir(() => hoverAgainstLimit(type, need(liftMass_kg, 'mass_kg'), charted, skid_height_ft));
  const powered = type.engines.length > 1 ? poweredOf(type) : null;
  const twin = powered && wornBy(powered, context.engineMargin?.margin_C ?? null);
  return {
    topLimit: limit('TOP'),
    mcpLimit: limit('MCP'),
    neverExceed_kt: type.performance.neverExceed
      ? inAir(() => Math.floor(chartLookup(type.performance.neverExceed, charted.pa_ft, air.oat_C).lower_bound))
      : null,
    hoverIge: hover(LOW_HOVER_ft),
    hoverOge: hover(null),
    oei: twin && inAir(() => oeiMasses(twin, charted, AFTER_FAILURE)),
    oeiAtLift:
      twin &&
      inAir(() => {
        const lift = { ...charted, mass_kg: need(liftMass_kg, 'mass_kg'), skid_height_ft: null };
        return oeiRequiredRating(twin, lift, AFTER_FAILURE);
      }),
  };
}
