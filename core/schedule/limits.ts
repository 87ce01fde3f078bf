/** Most cases of a plan, and most steps of a case. */
export const mostCases = 40;
export const mostSteps = 100;
