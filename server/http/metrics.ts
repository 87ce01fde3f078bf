import { createHash, timingSafeEqual } from 'node:crypto';
import type { RequestHandler, Response } from 'express';
import { collectDefaultMetrics, Gauge, Registry } from 'prom-client';
import { counted, kindOf, requests } from '../base/metrics';
import { stripClocks } from '../runs/strip';
import type { Services } from '../services/services';

/** Counts every answer and how long it took. A live line stays open by design and is counted when it ends, without its time. */
export const measured: RequestHandler = (request, response, next) => {
  const kind = kindOf(request.originalUrl);
  const end = requests.startTimer();
  response.once('close', () => {
    const labels = { method: ['GET', 'POST', 'HEAD'].includes(request.method) ? request.method : 'other', kind, status: String(response.statusCode) };
    if (kind === 'live') requests.observe(labels, 0);
    else end(labels);
  });
  next();
};

const digest = (text: string) => createHash('sha256').update(text).digest();

/**
 * What is counted, in the open text format, for whoever has the token; without one nothing is there. Waits, statements and memory are read at the moment of asking.
 */
export function metrics(services: Services, token: string): RequestHandler {
  const own = new Registry();
  collectDefaultMetrics({ register: own });
  new Gauge({
    name: 'bloodstone_waits',
    help: 'Runs and lockouts that go on, by what they need: due, amber and red are late.',
    labelNames: ['attention'],
    registers: [own],
    async collect() {
      this.reset();
      for (const attention of ['none', 'due', 'amber', 'red']) this.set({ attention }, 0);
      for (const { attention } of await stripClocks(services)) this.inc({ attention });
    },
  });
  new Gauge({
    name: 'bloodstone_statements',
    help: 'Statements that the database was asked since the start.',
    registers: [own],
    collect() {
      this.set(services.database.statements.asked);
    },
  });
  const all = Registry.merge([counted, own]);
  const wanted = digest(`Bearer ${token}`);
  return (request, response, next) => {
    if (!timingSafeEqual(digest(request.headers.authorization ?? ''), wanted))
      return void response.status(401).type('text/plain').send('Not allowed.\n');
    all.metrics().then((text) => answer(response, all.contentType, text), next);
  };
}

const answer = (response: Response, type: string, text: string) => response.set({ 'Content-Type': type, 'Cache-Control': 'no-store' }).send(text);
