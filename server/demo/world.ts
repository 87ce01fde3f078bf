// The demo world in one file: the build makes it once through the acts of demo.ts, and a first start loads it (server/db/world.ts).
import { join } from 'node:path';
import { worldPath } from '../db/open';
import { markUnmoved } from '../db/world';
import { contentName } from '../library/preparedContent';
import { openServices, type Settings } from '../services/services';
import { seedDemo } from './demo';

/**
 * Part of the build.
 * @param at the moment of the clock for which the world is made; the present unless given
 */
export async function prepareWorld(settings: Settings & { templates: string }, at?: number): Promise<void> {
  const { root, templates } = settings;
  const services = await openServices({ ...settings, manualClock: true });
  try {
    const { clock, database } = services;
    if (at !== undefined) await clock.advance(at - clock.now());
    await seedDemo(services);
    await markUnmoved(database.db, clock.now());
    await database.keepAs(worldPath(templates, join(root, 'server/db/migrations'), contentName(join(root, 'content'))));
  } finally {
    await services.close();
  }
}
