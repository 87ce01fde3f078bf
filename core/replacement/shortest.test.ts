import { generator } from '../units';
import { type Move, shortest } from './shortest';

/** Every order of at most `most` moves, each once: the least cost that reaches the goal. */
function bruteForce(moves: readonly Move[], start: bigint, goal: bigint, most: number): number | undefined {
  let best: number | undefined;
  const go = (state: bigint, used: ReadonlySet<number>, cost: number): void => {
    if ((state & goal) === goal) {
      if (best === undefined || cost < best) best = cost;
      return;
    }
    if (used.size === most || (best !== undefined && cost >= best)) return;
    moves.forEach((move, m) => {
      if (used.has(m) || (state & move.needs) !== move.needs || (state & move.gives) === move.gives) return;
      go((state & ~move.takes) | move.gives, new Set([...used, m]), cost + move.cost);
    });
  };
  go(start, new Set(), 0);
  return best;
}

const costOf = (moves: readonly Move[], order: readonly number[]) => order.reduce((sum, m) => sum + moves[m]!.cost, 0);

/** Carries an order out; throws where a move comes before what it needs. */
function carryOut(moves: readonly Move[], start: bigint, order: readonly number[]): bigint {
  return order.reduce((state, m) => {
    const move = moves[m]!;
    if ((state & move.needs) !== move.needs) throw new Error(`move ${m} comes before what it needs`);
    return (state & ~move.takes) | move.gives;
  }, start);
}

describe('the quickest order', () => {
  const move = (needs: bigint, gives: bigint, cost: number, takes = 0n): Move => ({ needs, gives, takes, cost });

  test('one move brings both where that is quicker than two, and where it isn’t the two', () => {
    const both = [move(0n, 1n, 5), move(0n, 2n, 5), move(0n, 3n, 9)];
    expect(shortest(both, 0n, 3n)).toEqual([2]);
    expect(shortest([both[0]!, both[1]!, move(0n, 3n, 11)], 0n, 3n)).toEqual([0, 1]);
  });

  test('of equals the one that stands first in the list comes first', () => {
    expect(shortest([move(0n, 1n, 5), move(0n, 2n, 5)], 0n, 3n)).toEqual([0, 1]);
    expect(shortest([move(0n, 2n, 5), move(0n, 1n, 5)], 0n, 3n)).toEqual([0, 1]);
    expect(shortest([move(0n, 3n, 10), move(0n, 1n, 5), move(0n, 2n, 5)], 0n, 3n)).toEqual([0]);
  });

  test('what a move makes void is brought back after it, not before', () => {
    // The second makes the first void.
    expect(shortest([move(0n, 1n, 5), move(0n, 2n, 5, 1n)], 0n, 3n)).toEqual([1, 0]);
  });

  test('nothing to do, and nothing that helps', () => {
    expect(shortest([move(0n, 1n, 5)], 1n, 1n)).toEqual([]);
    expect(shortest([move(2n, 1n, 5)], 0n, 1n)).toBeUndefined();
    expect(shortest([], 0n, 1n)).toBeUndefined();
  });

  test('moves that cost nothing do not lead in a circle', () => {
    const circle = [move(0n, 1n, 0, 2n), move(0n, 2n, 0, 1n), move(2n, 4n, 3)];
    const order = shortest(circle, 1n, 4n)!;
    expect(carryOut(circle, 1n, order) & 4n).toBe(4n);
    expect(order).toEqual([1, 2]);
  });

  test('as cheap as the cheapest of all orders of up to eight moves, on 400 random sets', () => {
    let solved = 0;
    for (let seed = 1; seed <= 400; seed += 1) {
      const random = generator(seed);
      const facts = 6;
      const some = (chance: number) => {
        let mask = 0n;
        for (let f = 0; f < facts; f += 1) if (random() < chance) mask |= 1n << BigInt(f);
        return mask;
      };
      const moves = Array.from({ length: 8 }, () => {
        const gives = some(0.3) || 1n;
        return move(some(0.25) & ~gives, gives, 1 + Math.floor(random() * 20), some(0.1) & ~gives);
      });
      const start = some(0.2);
      const goal = some(0.6);
      const order = shortest(moves, start, goal);
      const least = bruteForce(moves, start, goal, 8);
      if (order === undefined) {
        expect({ seed, least }).toEqual({ seed, least: undefined });
        continue;
      }
      solved += 1;
      expect({ seed, reached: carryOut(moves, start, order) & goal }).toEqual({ seed, reached: goal });
      // Nothing made void by another move is brought twice: then both say the same.
      if (new Set(order).size === order.length) expect({ seed, cost: costOf(moves, order) }).toEqual({ seed, cost: least });
      else expect(costOf(moves, order)).toBeLessThanOrEqual(least ?? Infinity);
    }
    expect(solved).toBeGreaterThan(100);
  });
});
