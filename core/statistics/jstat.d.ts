/** What is used of jstat, which ships no types. */
declare module 'jstat' {
  const jStat: {
    /** `inv(p, a, b)`: the quantile of the beta distribution. */
    beta: { inv(p: number, a: number, b: number): number };
    /** `cdf(t, degreesOfFreedom)`, `inv(p, degreesOfFreedom)` of Student's distribution. */
    studentt: { cdf(t: number, degreesOfFreedom: number): number; inv(p: number, degreesOfFreedom: number): number };
    /** Natural logarithm of the gamma function. */
    gammaln(x: number): number;
    hypgeom: { pdf(k: number, population: number, successes: number, draws: number): number };
  };
  export default jStat;
}
