import { randomBytes } from 'node:crypto';
import { Router } from 'express';
import { documentOf } from '../openapi/document.ts';
import { pageOf } from '../openapi/page.ts';

/** The interface in its own words, for machines and for people. @param routers every other router of the interface */
export function openApiRoutes(routers: readonly Router[]): Router {
  const router = Router();
  router.get('/openapi.json', (_req, res) => void res.json(document));
  router.get('/openapi.html', (_req, res) => {
    const nonce = randomBytes(16).toString('base64');
    res.setHeader('Content-Security-Policy', `default-src 'none'; style-src 'nonce-${nonce}'; base-uri 'none'; frame-ancestors 'none'`);
    res.type('html').send(pageOf(document, nonce));
  });
  const document = documentOf([...routers, router]);
  return router;
} // oxfmt-ignore
