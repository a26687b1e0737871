import { randomBytes } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { ApiError } from '@rouse/core/contract';
import compression from 'compression';
import express, {
  type ErrorRequestHandler,
  type Express,
  type RequestHandler,
  type Response,
  type Router,
} from 'express';
import helmet from 'helmet';
import { v7 as uuidv7 } from 'uuid';
import type { Logger } from 'pino';
import { asRefusal, ERRORS, Refusal } from './errors.ts';
import { relayToOwner } from './leases/relay.ts';
import { admission } from './accounts/admission.ts';
import { ownOriginOnly } from './origin.ts';
import { accountRoutes } from './routes/account.ts';
import { aircraftRoutes } from './routes/aircraft.ts';
import { auditRoutes } from './routes/audit.ts';
import { defectRoutes } from './routes/defects.ts';
import { linkRoutes } from './routes/links.ts';
import { ownSessionRoutes } from './routes/own-sessions.ts';
import { proofRoutes } from './routes/proofs.ts';
import { tabletRoutes } from './routes/tablets.ts';
import { namelessSignInRoutes, signInRoutes } from './routes/sign-in.ts';
import { briefRoutes } from './routes/brief.ts';
import { keepableTextOnly } from './routes/clean-text.ts';
import { deviceRoutes } from './routes/devices.ts';
import { healthRoutes } from './routes/health.ts';
import type { Health } from './health/health.ts';
import { exportRoutes } from './routes/exports.ts';
import { foundRoutes } from './routes/found.ts';
import { joinRoutes } from './routes/join.ts';
import { journalRoutes } from './routes/journal.ts';
import { operatorCopyRoutes } from './routes/operator-copy.ts';
import { openApiRoutes } from './routes/openapi.ts';
import { operatorRoutes } from './routes/operator.ts';
import { peopleRoutes } from './routes/people.ts';
import { placeRoutes } from './routes/places.ts';
import { drillRoutes, LONG_BODY } from './routes/drill.ts';
import { lessonRoutes } from './routes/lessons.ts';
import { practiceRoutes } from './routes/practice.ts';
import { recordingRoutes } from './routes/recordings.ts';
import { replayRoutes } from './routes/replay.ts';
import { runRoutes } from './routes/runs.ts';
import { sessionRoutes } from './routes/session.ts';
import { signOnRoutes } from './routes/sign-on.ts';
import { BROUGHT_RUNS, broughtRunRoutes } from './routes/brought-runs.ts';
import { bookRoutes } from './routes/books.ts';
import { exceedanceRoutes } from './routes/exceedances.ts';
import { logRoutes } from './routes/log.ts';
import { carriedRoutes, reportRoutes } from './routes/reports.ts';
import { trainingRoutes } from './routes/training.ts';
import { trendRoutes } from './routes/trends.ts';
import { whatIfRoutes } from './routes/what-if.ts';
import { standInRoutes } from './routes/stand-in.ts';
import { takeOverRoutes } from './routes/take-over.ts';
import { todayRoutes } from './routes/today.ts';
import { typeDraftRoutes } from './routes/type-drafts.ts';
import { typeReleaseRoutes } from './routes/type-release.ts';
import type { Services } from './services.ts';
import type { Session } from './accounts/sessions.ts';

export interface AppDeps extends Services {
  log: Logger;
  health: Health;
  /** the built pages, or null for the interface alone */
  webDir: string | null;
  /** the one address that browsers open, null for a server that only this machine reaches */
  origin: URL | null;
}

/** The whole HTTP side. Takes everything it needs; only main.ts reads the environment. */
export async function createApp(deps: AppDeps): Promise<Express> {
  const routers = routersOf(deps);
  const app = express();
  app.disable('x-powered-by');
  // the address of whoever asks, where one proxy of ours stands before us
  if (deps.origin) app.set('trust proxy', 1);
  app.use(compression());
  app.use(named);
  app.use(healthRoutes(deps.health));
  app.use(
    '/api',
    ownOriginOnly(deps.origin),
    (_req, res, next) => {
      res.setHeader('X-Content-Type-Options', 'nosniff');
      res.setHeader('Cache-Control', 'no-store');
      next();
    },
    relayToOwner(deps.leases, deps.accounts),
    unlessLong(express.json({ limit: '64kb' })),
    keepableTextOnly,
    admission(deps.accounts.sessions, deps.accounts.limits.requestBySession),
    afterClosing(deps),
    ...routers,
    openApiRoutes(routers),
  );
  app.use('/api', (req) => {
    throw new Refusal('not-found', `There is nothing at ${req.originalUrl}.`);
  });
  if (deps.webDir !== null) await servePages(app, deps.webDir, deps.origin?.protocol === 'https:');
  app.use(answerError(deps.log));
  return app;
}

/** What is served below /api; the table of routes says what each needs. */
function routersOf(deps: AppDeps): Router[] {
  return [
    sessionRoutes(deps),
    signInRoutes(deps),
    namelessSignInRoutes(deps),
    signOnRoutes(deps),
    accountRoutes(deps),
    proofRoutes(deps),
    ownSessionRoutes(deps),
    joinRoutes(deps),
    foundRoutes(deps),
    peopleRoutes(deps),
    linkRoutes(deps),
    tabletRoutes(deps),
    auditRoutes(deps),
    operatorRoutes(deps),
    operatorCopyRoutes(deps),
    placeRoutes(deps),
    deviceRoutes(deps),
    todayRoutes(deps),
    aircraftRoutes(deps),
    defectRoutes(deps),
    typeDraftRoutes(deps),
    typeReleaseRoutes(deps),
    briefRoutes(deps),
    runRoutes(deps),
    logRoutes(deps),
    trendRoutes(deps),
    whatIfRoutes(deps),
    broughtRunRoutes(deps),
    lessonRoutes(deps),
    exceedanceRoutes(deps),
    bookRoutes(deps),
    reportRoutes(deps),
    carriedRoutes(deps),
    journalRoutes(deps),
    takeOverRoutes(deps),
    exportRoutes(deps),
    standInRoutes(deps),
    replayRoutes(deps),
    recordingRoutes(deps),
    practiceRoutes(deps),
    drillRoutes(deps),
    trainingRoutes(deps),
  ];
}

/** Every request has a name, so that what is logged of it is found. */
const named: RequestHandler = (_req, res, next) => {
  res.locals['request'] = uuidv7();
  res.setHeader('X-Request-Id', String(res.locals['request']));
  next();
};

/** A drill is longer than anything else that is sent, and is read only once it is known who sends it. */
const unlessLong =
  (read: RequestHandler): RequestHandler =>
  (req, res, next) =>
    void ([LONG_BODY, BROUGHT_RUNS].includes(req.path) ? next() : read(req, res, next));

async function servePages(app: Express, webDir: string, overTls: boolean): Promise<void> {
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
          // the silence that lets the button of a headset reach the page
          mediaSrc: ['blob:'],
          connectSrc: ["'self'"],
        },
      },
      strictTransportSecurity: overTls && { includeSubDomains: false },
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
    const told = { err: error, url: req.originalUrl, request: res.locals['request'] as string };
    if (refusal.code === 'internal') log.error(told, 'a request failed');
    if (refusal.code === 'database-away') log.warn(told, 'a request found no database');
    const { status, remedy } = ERRORS[refusal.code];
    const { retryAfter_s } = refusal.details;
    if (typeof retryAfter_s === 'number') res.setHeader('Retry-After', retryAfter_s);
    const body: ApiError = { error: { code: refusal.code, message: refusal.message, remedy, ...refusal.details } };
    res.status(status).json(body);
  };
}

/** A run that was just closed is on its way into the database: what is asked next sees it there, unless the database is away. */
function afterClosing(deps: AppDeps): RequestHandler {
  return async (req, res, next) => {
    const reads = req.method === 'GET' || req.path === '/runs';
    const session = res.locals['session'] as Session | null;
    if (reads && session?.member && deps.fleets.of(session.member.operatorId).isClosing) await deps.stored();
    next();
  };
}
