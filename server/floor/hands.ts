import { and, asc, eq } from 'drizzle-orm';
import type { Technician } from '../../core/schedule';
import type { Keeping } from '../db/kept';
import { person, shop } from '../db/schema';
import { equipment } from '../shop/shop';

/** Who works at the cars. */
export interface Hands {
  /** How many, those by name included. */
  technicians: number;
  /** Everybody who has an account. */
  people: { id: string; name: string; atWork: boolean }[];
}

export const keptHands = ({ kept, database: { db } }: Keeping): Promise<Hands> =>
  kept.read('hands', [shop, person], async () => ({
    technicians: (await db.select({ n: shop.technicians }).from(shop))[0]?.n ?? 1,
    people: await db
      .select({ id: person.id, name: person.name, atWork: person.atWork })
      .from(person)
      .where(eq(person.state, 'active'))
      .orderBy(asc(person.name)),
  }));

export const isAtWork = ({ people }: Hands, id: string | undefined): boolean => people.some((p) => p.id === id && p.atWork);

/** How many people are at work by name. */
export const countByName = async (db: Pick<Keeping['database']['db'], '$count'>): Promise<number> =>
  db.$count(person, and(eq(person.state, 'active'), eq(person.atWork, true)));

/** The technicians of a plan: those by name, and as many more as were said. */
export function techniciansOf({ technicians, people }: Hands): number | Technician[] {
  const named = people.filter((p) => p.atWork);
  if (named.length === 0) return technicians;
  const more = Math.max(0, technicians - named.length);
  return [...named.map(({ id }) => ({ id })), ...Array.from({ length: more }, (_, i) => ({ id: `more ${i + 1}` }))];
}

/** What a shop has one of, and what works on two vehicles can't be done with at once. */
export const singleTool: string = equipment.scanner.tools[0];
