/** Whether a module was heard in a scan. `notAsked` is not `silent`: nothing is known of it. */
export const coverages = ['answered', 'silent', 'notAsked'] as const;
export type Coverage = (typeof coverages)[number];
