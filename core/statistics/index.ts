export { betaQuantile, logGamma, studentCdf, studentQuantile } from './distributions';
