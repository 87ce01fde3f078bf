/** The input can't be used: one line for the person, exit 1. */
export class CannotUse extends Error {}
