import { randomBytes } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { ApiError } from '@rouse/core/contract';
import compression from 'compression';
import express, { type ErrorRequestHandler, type Express, type RequestHandler, type Response } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { asRefusal, ERRORS, Refusal } from './errors.ts';
import { ownOriginOnly } from './origin.ts';
import { briefRoutes } from './routes/brief.ts';
import { keepableTextOnly } from './routes/clean-text.ts';
import { exportRoutes } from './routes/exports.ts';
import { journalRoutes } from './routes/journal.ts';
import { practiceRoutes } from './routes/practice.ts';
import { replayRoutes } from './routes/replay.ts';
import { runRoutes } from './routes/runs.ts';
import { standInRoutes } from './routes/stand-in.ts';
import { todayRoutes } from './routes/today.ts';
import type { Services } from './services.ts';

export interface AppDeps extends Services {
  log: Logger;
  /** the built pages, or null for the interface alone */
  webDir: string | null;
}

/** The whole HTTP side. Takes everything it needs; only main.ts reads the environment. */
export async function createApp(deps: AppDeps): Promise<Express> {
  const app = express();
  app.disable('x-powered-by');
  app.use(compression());
  app.use(
    '/api',
    ownOriginOnly,
    (_req, res, next) => {
      res.setHeader('X-Content-Type-Options', 'nosniff');
      res.setHeader('Cache-Control', 'no-store');
      next();
    },
    express.json({ limit: '64kb' }),
    keepableTextOnly,
    afterClosing(deps),
    todayRoutes(deps),
    briefRoutes(deps),
    runRoutes(deps),
    journalRoutes(deps),
    exportRoutes(deps),
    standInRoutes(deps),
    replayRoutes(deps),
    practiceRoutes(deps),
  );
  app.use('/api', (req) => {
    throw new Refusal('not-found', `There is nothing at ${req.originalUrl}.`);
  });
  if (deps.webDir !== null) await servePages(app, deps.webDir);
  app.use(answerError(deps.log));
  return app;
}

async function servePages(app: Express, webDir: string): Promise<void> {
  // one fresh nonce per response: styled-components reads it from <meta property="csp-nonce">
  app.use((_req, res, next) => {
    res.locals['nonce'] = randomBytes(16).toString('base64');
    next();
  });
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          baseUri: ["'none'"],
          formAction: ["'self'"],
          frameAncestors: ["'none'"],
          scriptSrc: ["'self'"],
          workerSrc: ["'self'"],
          styleSrc: ["'self'", (_req, res) => `'nonce-${String((res as Response).locals['nonce'])}'`],
          fontSrc: ["'self'"],
          imgSrc: ["'self'", 'data:'],
          manifestSrc: ["'self'"],
          connectSrc: ["'self'"],
        },
      },
      strictTransportSecurity: false,
    }),
  );
  const index = await readFile(path.join(webDir, 'index.html'), 'utf8');
  const sendIndex: RequestHandler = (_req, res) => {
    res.setHeader('Cache-Control', 'no-cache');
    res.type('html').send(index.replaceAll('__CSP_NONCE__', String(res.locals['nonce'])));
  };
  app.get('/index.html', sendIndex);
  app.use(
    '/assets',
    express.static(path.join(webDir, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  );
  app.use(express.static(webDir, { index: false }));
  app.get('/{*splat}', sendIndex);
}

function answerError(log: Logger): ErrorRequestHandler {
  return (error: unknown, req, res, next) => {
    if (res.headersSent) {
      next(error);
      return;
    }
    const refusal = asRefusal(error);
    if (refusal.code === 'internal') log.error({ err: error, url: req.originalUrl }, 'a request failed');
    if (refusal.code === 'database-away') log.warn({ err: error, url: req.originalUrl }, 'a request found no database');
    const { status, remedy } = ERRORS[refusal.code];
    const body: ApiError = { error: { code: refusal.code, message: refusal.message, remedy, ...refusal.details } };
    res.status(status).json(body);
  };
}

/** A run that was just closed is on its way into the database: what is asked next sees it there, unless the database is away. */
function afterClosing({ fleet, stored }: AppDeps): RequestHandler {
  return async (req, _res, next) => {
    const reads = req.method === 'GET' || req.path === '/runs';
    if (reads && fleet.isClosing) await stored();
    next();
  };
}
