/**
 * How often a seeded test draws: every time a part of its draws, and all of them where the whole is asked for (`npm run thorough`; docs/architecture.md,
 * "Tests"). The draws of a part are the first ones of the whole.
 */
export const often = (all: number, part: number): number => (process.env.THOROUGH === '1' ? all : part);
