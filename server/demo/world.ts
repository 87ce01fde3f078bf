// The demo world, ready-made: the build fills a database once through the acts of demo.ts, and a first start copies it (server/db/open.ts, world.ts).
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { copyWhole, worldPath } from '../db/open';
import { markUnmoved } from '../db/world';
import { openServices, type Services, type Settings, worldName } from '../services/services';
import { seedDemo } from './demo';
import { seedHistory } from './history';

/** The demo world, and its shop's past where it is asked for. */
export async function seedWorld(services: Services, history = false): Promise<void> {
  await seedDemo(services);
  if (history) await seedHistory(services);
}

/**
 * Part of the build.
 * @param at the moment of the clock for which the world is made; the present unless given
 */
export async function prepareWorld(settings: Settings & { templates: string }, at?: number): Promise<void> {
  const { root, templates } = settings;
  mkdirSync(templates, { recursive: true });
  const folder = mkdtempSync(join(templates, 'making-'));
  try {
    const services = await openServices({ ...settings, folder, manualClock: true });
    try {
      const { clock, database } = services;
      if (at !== undefined) await clock.advance(at - clock.now());
      await seedWorld(services, settings.history);
      await markUnmoved(database.db, clock.now());
    } finally {
      await services.close();
    }
    copyWhole(join(folder, 'pg'), worldPath(templates, join(root, 'server/db/migrations'), worldName(root, settings.history)));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
