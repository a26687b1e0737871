import { isPiston } from '@rouse/core/aircraft';
import {
  beginSchema,
  hurrySchema,
  moveSchema,
  prepareSchema,
  presetSchema,
  standInLineSchema,
  type StandInState,
} from '@rouse/core/contract';
import { findItem, standInActions } from '@rouse/core/procedure';
import { type Response, Router } from 'express';
import { Refusal } from '../errors.ts';
import type { Fleet } from '../live/fleet.ts';
import type { LiveAircraft } from '../live/live-aircraft.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';

/** The simulated aircraft that stand in for engine data units: their conditions, their line, their switches. */
export function standInRoutes(services: Services): Router {
  const { standIn } = services;
  const router = Router();

  /** The aircraft of whoever asks, where a stand-in is wired to it. @throws Refusal */
  const wired = (res: Response, id: string): LiveAircraft => {
    const aircraft = deskOf(services, res).fleet.of(id);
    if (!aircraft.wired) throw new Refusal('no-stand-in', `No stand-in is wired to ${aircraft.aircraft.tail}.`);
    return aircraft;
  };
  const inRun = (res: Response, runId: string): ReturnType<Fleet['openRun']> => {
    const open = deskOf(services, res).fleet.openRun(runId);
    if (!open.aircraft.wired)
      throw new Refusal('no-stand-in', `No stand-in is wired to ${open.aircraft.aircraft.tail}.`);
    return open;
  };

  /** @throws Refusal run-is-open */
  const between = (aircraft: LiveAircraft): void => {
    if (aircraft.openRunId)
      throw new Refusal('run-is-open', 'The conditions of the stand-in cannot change during a run.', {
        run: aircraft.openRunId,
      });
  };

  router.post('/stand-in/conditions', asks(presetSchema), async (req, res) => {
    const { aircraft: id, preset } = req.body;
    const aircraft = wired(res, id);
    between(aircraft);
    await standIn.send({ cmd: 'reset', type: aircraft.type.id, preset });
    res.json(await standInState(services, aircraft));
  });

  // a run begins as its conditions say, whatever was done to the aircraft before, and with the load of its brief
  router.post('/stand-in/prepare', asks(prepareSchema), async (req, res) => {
    const { aircraft: id, mass_kg } = req.body;
    const aircraft = wired(res, id);
    const { type } = aircraft;
    between(aircraft);
    const { preset } = await standIn.send({ cmd: 'state', type: type.id });
    await standIn.send({ cmd: 'reset', type: type.id, preset });
    if (mass_kg !== null && type.simulator && !isPiston(type.simulator))
      await standIn.send({ cmd: 'move', type: type.id, actions: [{ control: 'mass_kg', to: mass_kg }] });
    res.json({ preset });
  });

  router.post('/stand-in/line', asks(standInLineSchema), async (req, res) => {
    const { aircraft: id, line } = req.body;
    const aircraft = wired(res, id);
    await standIn.send({ cmd: 'line', type: aircraft.type.id, ...line });
    res.json(await standInState(services, aircraft));
  });

  router.post('/stand-in/move', asks(moveSchema), async (req, res) => {
    const { run: runId, item: id } = req.body;
    const { type, session } = inRun(res, runId).run;
    const item = findItem(type, id);
    const actions = item ? standInActions(item, session.state) : [];
    if (actions.length === 0) throw new Refusal('not-found', `Nothing is moved on the stand-in for ${id}.`);
    await standIn.send({ cmd: 'move', type: type.id, actions });
    res.json({ moved: actions.length });
  });

  router.post('/stand-in/begin', asks(beginSchema), async (req, res) => {
    const { run: runId, leg: id } = req.body;
    const { type } = inRun(res, runId).run;
    const leg = type.legs.find((l) => l.id === id);
    if (!leg?.standIn?.length) throw new Refusal('not-found', `Nothing is moved on the stand-in to begin ${id}.`);
    await standIn.send({ cmd: 'move', type: type.id, actions: leg.standIn });
    res.json({ moved: leg.standIn.length });
  });

  router.post('/stand-in/pace', asks(hurrySchema), async (req, res) => {
    const { run: runId, times } = req.body;
    const { aircraft } = inRun(res, runId);
    if (!aircraft.simulated) throw new Refusal('not-so', 'Only a simulated aircraft can be hurried.');
    await standIn.send({ cmd: 'pace', type: aircraft.type.id, times });
    aircraft.pace = times;
    res.json({ times });
  });

  return router;
}

/** What the stand-in of an aircraft is set to, as far as it answers. */
export async function standInState({ standIn }: Services, aircraft: LiveAircraft): Promise<StandInState> {
  const presets = aircraft.type.standIn.map(({ id, label, note }) => ({ id, label, note }));
  const answer = await standIn.send({ cmd: 'state', type: aircraft.type.id }).catch(() => null);
  return { connected: aircraft.connected, preset: answer?.preset ?? null, line: answer?.line ?? null, presets };
}
