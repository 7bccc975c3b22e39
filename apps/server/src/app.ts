import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { DocumentBuilder, SwaggerModule } from '@nestjs/swagger';
import compression from 'compression';
import cookieParser from 'cookie-parser';
import { json, type NextFunction, type Request, type Response } from 'express';
import helmet from 'helmet';
import { AppModule } from './app.module.js';
import { boundBodies } from './common/bounds.js';
import { MOST_BATCH_BYTES } from './jobs/jobs.dto.js';
import { MOST_BLOCK_BYTES } from './traces/traces.service.js';

/** A name and a password. */
const MOST_SIGN_IN_BYTES = 4096;
const HASHED_FILE = /\/assets\/[^/]+-[\w-]{8,}\.\w+$/;

/** The whole server on one application: API, OpenAPI document, health, and the built web pages. */
export async function createApp(
  options: { readonly web?: string; readonly quiet?: boolean } = {},
): Promise<NestExpressApplication> {
  const app = await NestFactory.create<NestExpressApplication>(AppModule, {
    bodyParser: false,
    logger: options.quiet ? ['error', 'fatal'] : ['error', 'warn', 'fatal'],
  });
  app.setGlobalPrefix('api/v1', { exclude: ['health/live', 'health/ready'] });
  app.disable('x-powered-by');
  // Behind a proxy that speaks TLS, how a request came is what the proxy says: the cookie is then for TLS alone.
  const proxies = Number(process.env['TRUST_PROXY'] ?? 0);
  if (proxies > 0) app.set('trust proxy', proxies);
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          // Emotion writes its style elements at run time; scripts stay without inline.
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'"],
          workerSrc: ["'self'"],
          connectSrc: ["'self'"],
          frameAncestors: ["'none'"],
          baseUri: ["'self'"],
          formAction: ["'self'"],
          objectSrc: ["'none'"],
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(compression());
  app.use(cookieParser());
  // Only a batch of entries is long; what anybody may send unasked is short.
  app.use(['/api/v1/auth', '/api/v1/setup'], json({ limit: MOST_SIGN_IN_BYTES, strict: true }));
  app.useBodyParser('json', { limit: MOST_BATCH_BYTES, strict: true });
  app.use(boundBodies);
  app.useBodyParser('raw', { type: 'application/octet-stream', limit: MOST_BLOCK_BYTES });
  const document = SwaggerModule.createDocument(
    app,
    new DocumentBuilder()
      .setTitle('Firm Needle')
      .setVersion('1')
      .addCookieAuth('firm_needle_session')
      .build(),
  );
  const express = app.getHttpAdapter().getInstance() as import('express').Express;
  express.get('/api/v1/openapi.json', (_: Request, response: Response) => void response.json(document));
  const web = options.web;
  if (web !== undefined && existsSync(web)) {
    app.useStaticAssets(web, {
      index: false,
      setHeaders: (response: Response, path: string) => {
        response.setHeader(
          'Cache-Control',
          HASHED_FILE.test(path) ? 'public, max-age=31536000, immutable' : 'no-cache',
        );
      },
    });
    // Every other page address is the app's own router's business.
    app.use((request: Request, response: Response, next: NextFunction) => {
      if (request.method !== 'GET' || /^\/(api|health)\//.test(request.path) || /\.\w+$/.test(request.path))
        return next();
      response.setHeader('Cache-Control', 'no-cache');
      response.sendFile(join(web, 'index.html'));
    });
  }
  app.enableShutdownHooks();
  return app;
}
