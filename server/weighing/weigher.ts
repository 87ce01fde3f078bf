import { createHash } from 'node:crypto';
import { LRUCache } from 'lru-cache';
import { type Diagnosis, Diagnostician, type Explanation, firstBudget, type Situation, somethingElse, type Ways } from '../../core/diagnosis';
import { IdleQueue } from '../base/idleQueue';
import { Thread } from './thread';

/** A situation with the name under which its answers are kept; equal situations have equal names. */
export interface Named {
  name: string;
  situation: Situation;
}

/** @param familyHash stands for the whole family in the name */
export function named(situation: Situation, familyHash: string): Named {
  const { family: _, ...rest } = situation;
  return {
    name: createHash('sha256')
      .update(JSON.stringify([familyHash, rest]))
      .digest('base64url')
      .slice(0, 22),
    situation,
  };
}

/** Answers of the diagnosis, kept in memory: an answer at once, and the one that looks far ahead when it is there. */
export interface Weigher {
  /** The best answer that is there now; `final` when no better one will come. */
  quick(situation: Named): { diagnosis: Diagnosis; final: boolean };
  /** The answer that looks far ahead; the same each time. */
  final(situation: Named): Promise<Diagnosis>;
  /**
   * The same when nobody waits for another one, for a page that shows the first answer meanwhile; null where it is under way or would hold up this thread.
   */
  prefetch(situation: Named): Promise<Diagnosis> | null;
  /** What acting now and testing further may cost; the same each time. */
  ways(situation: Named): Promise<Ways>;
  /** What each entry says, and the priors before the shop's cases and before what was told. */
  explain(situation: Named): Explained;
  close(): Promise<void>;
}

export interface Explained {
  /** Ids of the hypotheses in the order of the model. */
  hypotheses: string[];
  /** For and against each fault and each link: decibans before, by entry, and now. */
  faults: Record<string, Weights>;
  links: Record<string, Weights>;
  familyPriors: Record<string, number>;
}
interface Weights {
  prior: number;
  now: number;
  weights: Record<string, number>;
}

function explain(situation: Situation): Explained {
  const doctor = new Diagnostician(situation);
  const { hypotheses, familyPriors } = doctor.compiled;
  const ids = hypotheses.map((h) => h.id);
  const short = (x: number) => Math.round(x * 1000) / 1000;
  const of = ({ prior, weights, now }: Explanation): Weights => ({
    prior: short(prior),
    now: short(now),
    weights: Object.fromEntries(weights.map((w) => [w.finding, short(w.decibans)])),
  });
  return {
    hypotheses: ids,
    faults: Object.fromEntries([
      ...hypotheses.map((h) => [h.id, of(doctor.explainFault(h.fault.id, h.key))] as const),
      [somethingElse, of(doctor.explainFault(somethingElse))] as const,
    ]),
    links: Object.fromEntries(situation.family.chain.map((l) => [l.id, of(doctor.explainLink(l.id))])),
    familyPriors: Object.fromEntries([...ids, somethingElse].map((id, i) => [id, familyPriors[i]!])),
  };
}

/** Answers kept; those that nobody asked for longest are calculated again when somebody asks. */
const kept = { max: 400 };

/** @param worker file of the built worker; without one everything is calculated here, which is what tests do */
export function openWeigher(worker?: string): Weigher {
  const first = new LRUCache<string, Diagnosis>(kept);
  const final = new LRUCache<string, Diagnosis>(kept);
  const words = new LRUCache<string, Explained>(kept);
  const ways = new LRUCache<string, Promise<Ways>>(kept);
  const under = new Map<string, Promise<Diagnosis>>();
  const behindThread = worker === undefined ? null : new Thread(worker, 'diagnosis');
  const behind = new IdleQueue(() => under.size === 0);
  const weigher: Weigher = {
    quick({ name, situation }) {
      const known = final.get(name);
      if (known) return { diagnosis: known, final: true };
      const quick = first.get(name) ?? new Diagnostician(situation).diagnose(firstBudget);
      first.set(name, quick);
      return { diagnosis: quick, final: false };
    },
    final({ name, situation }) {
      const known = final.get(name);
      if (known) return Promise.resolve(known);
      const asked = under.get(name);
      if (asked) return asked;
      const work = (behindThread ? behindThread.ask<Diagnosis>({ situation }) : Promise.resolve(new Diagnostician(situation).diagnose()))
        .then((diagnosis) => {
          final.set(name, diagnosis);
          return diagnosis;
        })
        .finally(() => {
          under.delete(name);
          behind.go();
        });
      under.set(name, work);
      return work;
    },
    prefetch: (asked) => (behindThread === null || under.has(asked.name) ? null : behind.ask(asked.name, () => weigher.final(asked))),
    ways({ name, situation }) {
      const known = ways.get(name);
      if (known) return known;
      const work = behindThread ? behindThread.ask<Ways>({ situation, ways: true }) : Promise.resolve(new Diagnostician(situation).ways());
      ways.set(name, work);
      // What failed is asked for again.
      work.catch(() => ways.delete(name));
      return work;
    },
    explain({ name, situation }) {
      const known = words.get(name) ?? explain(situation);
      words.set(name, known);
      return known;
    },
    close: async () => behindThread?.close(),
  };
  return weigher;
}
