import { Router } from 'express';
import type { Health } from '../health/health.ts';

/** Addresses of this machine itself, as Express says them. */
const OWN = new Set(['127.0.0.1', '::1', '::ffff:127.0.0.1']);

/** For whoever runs this server: it lives, it can serve, and its figures. None of it is behind a sign-in. */
export function healthRoutes(health: Health): Router {
  const router = Router();
  router.use((_req, res, next) => {
    res.setHeader('Cache-Control', 'no-store');
    next();
  });

  router.get('/healthz', (_req, res) => void res.type('text').send('ok\n'));

  router.get('/readyz', async (_req, res) => {
    const troubles = await health.troubles();
    res.status(troubles.length === 0 ? 200 : 503).json({ ready: troubles.length === 0, troubles });
  });

  // figures name tails: they are for this machine, and for what is let through to it
  router.get('/metrics', async (req, res) => {
    if (!OWN.has(req.ip ?? '')) return void res.status(403).type('text').send('Only this machine may ask.\n');
    res.setHeader('Content-Type', health.contentType);
    res.send(await health.metrics());
  });

  return router;
}
