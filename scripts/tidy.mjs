// For the week in fast motion (scripts/week.ts): loaded into its server, throws away what nothing holds when it is told to, so that its memory can be compared.
process.on('SIGUSR2', () => globalThis.gc());
