/** Nodes and weights of Gauss–Legendre with 8 points on −1 to 1 (Abramowitz & Stegun, table 25.4); the other half is its mirror. */
const nodes = [0.1834346424956498, 0.525532409916329, 0.7966664774136267, 0.9602898564975363];
const weights = [0.362683783378362, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763];

/**
 * The integral of a function, piece by piece between break points: exact for polynomials of degree 15 in each piece, so the breaks belong where the
 * function bends.
 * @param from lower end
 * @param to upper end, not below `from`
 * @param breaks in any order; those outside are passed over
 */
export function integrate(f: (x: number) => number, from: number, to: number, breaks: readonly number[]): number {
  const ends = [from, ...breaks.filter((b) => b > from && b < to).sort((a, b) => a - b), to];
  let sum = 0;
  for (let i = 1; i < ends.length; i += 1) {
    const [low, high] = [ends[i - 1]!, ends[i]!];
    const [middle, half] = [(low + high) / 2, (high - low) / 2];
    if (half === 0) continue;
    let piece = 0;
    for (let j = 0; j < nodes.length; j += 1) piece += weights[j]! * (f(middle - half * nodes[j]!) + f(middle + half * nodes[j]!));
    sum += half * piece;
  }
  return sum;
}

/** Points and weights that stand for a normal distribution with mean 0 and standard deviation 1: Gauss–Hermite with 5 points (A. & S., table 25.10). */
export const normalPoints: readonly (readonly [number, number])[] = [
  [-2.856970013872806, 0.01125741132772068],
  [-1.355626179974266, 0.2220759220056126],
  [0, 0.5333333333333333],
  [1.355626179974266, 0.2220759220056126],
  [2.856970013872806, 0.01125741132772068],
];
