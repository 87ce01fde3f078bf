import { and, asc, eq } from 'drizzle-orm';
import type { Technician } from '../../core/schedule';
import type { Keeping } from '../db/kept';
import { person, shop } from '../db/schema';
import { equipment } from '../shop/shop';

export interface Hand {
  id: string;
  name: string;
  atWork: boolean;
  /** Cautions whose work they are not trained for. */
  untrained: string[];
}

/** Who works at the cars. */
export interface Hands {
  /** How many, those by name included. */
  technicians: number;
  /** Everybody who has an account. */
  people: Hand[];
}

export const keptHands = ({ kept, database: { db } }: Keeping): Promise<Hands> =>
  kept.read('hands', [shop, person], async () => ({
    technicians: (await db.select({ n: shop.technicians }).from(shop))[0]?.n ?? 1,
    people: await db
      .select({ id: person.id, name: person.name, atWork: person.atWork, untrained: person.untrained })
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

const isTrainedFor = ({ untrained }: Hand, needs: readonly string[]): boolean => !untrained.some((id) => needs.includes(id));

/**
 * Who of the plan may do a case: whoever it is for, if at work; else who is trained for it. Those without a name are. Undefined: anybody, also where nobody is
 * trained, for a plan without the case would be of no use; that is said (`untrainedFor`).
 * @param needs cautions of what is ahead in it
 */
export function mayDo(hands: Hands, whoseId: string | undefined, needs: readonly string[]): string[] | undefined {
  if (isAtWork(hands, whoseId)) return [whoseId!];
  const all = techniciansOf(hands);
  if (typeof all === 'number') return undefined;
  const able = all.map((t) => t.id).filter((id) => isTrainedFor(hands.people.find((p) => p.id === id) ?? nobody, needs));
  return able.length === 0 || able.length === all.length ? undefined : able;
}
const nobody: Hand = { id: '', name: '', atWork: false, untrained: [] };

/** The first caution of a case that whoever does it is not trained for, and that person, where it is one. */
export function untrainedFor(hands: Hands, whoseId: string | undefined, needs: readonly string[]): { caution: string; who: Hand | null } | null {
  const own = hands.people.find((p) => p.id === whoseId && p.atWork);
  const all = own ? [own] : hands.people.filter((p) => p.atWork);
  const hasMore = !own && hands.technicians > all.length;
  if (all.length === 0 || hasMore || all.some((p) => isTrainedFor(p, needs))) return null;
  const caution = needs.find((id) => all.every((p) => p.untrained.includes(id))) ?? needs.find((id) => all[0]!.untrained.includes(id))!;
  return { caution, who: own ?? null };
}

/** What a shop has one of, and what works on two vehicles can't be done with at once. */
export const singleTool: string = equipment.scanner.tools[0];
