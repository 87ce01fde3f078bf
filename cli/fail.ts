/** The input can't be used: one line for the person, exit 1. */
export class CannotUse extends Error {}
/** What a check looks for is there, and is printed already: exit 1. */
export class Found extends Error {}
