/** Every sentence of core/papers, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // found
  concern: (words: string) => `You told us: “${words}”`,
  foundBy: (what: string, result: string) => `${what}: ${result}.`,
  causeProven: (cause: string) => `${cause} (proven)`,
  causeLikely: (cause: string) => `${cause} (likely, not proven)`,
  causePlain: (cause: string) => `The cause of the no-start: ${cause}.`,
  causeUnknown: 'The cause of the no-start is not known. What was seen is listed in the file copy.',
  elsewhere: 'The cause is outside what this shop could check.',

  // done
  tested: (tests: number, minutes: number) => `${tests === 1 ? 'One test' : `${tests} tests`} made, ${minutes} min of diagnosis.`,
  fixed: (cure: string) => `Fixed: ${cure}`,
  replaced: (part: string, origin: string) => `Replaced: ${part} (${origin}).`,
  runDone: (title: string) => `${title}: done.`,
  keysAdded: (tags: string) => `New keys: ${tags}.`,
  nothingDone: 'No repair was made.',

  // not done
  declined: (titles: string) => `Offered and not wanted: ${titles}.`,
  keyAway: (tag: string) => `Tag ${tag} was not here and was not tried. It may no longer start the car.`,
  keysStrange: (n: number) => (n === 1 ? 'One more key is stored than was shown to us.' : `${n} more keys are stored than were shown to us.`),
  notTried: 'Not every key was tried after the work.',
  runStopped: (title: string) => `${title}: stopped before its end.`,
  codesLeft: (codes: string) => `Trouble codes left: ${codes}.`,
  nothingLeft: 'Nothing that we know of was left undone.',

  // advise
  spare: 'Have a second key learned: losing the only one is the most expensive key job there is.',
  lostKey: (tags: string) => `Lost keys (${tags}) may still start the car. Have them locked out.`,
  master: 'Keep the master key in a safe; it goes with the vehicle when it is sold.',
  cell: (tags: string) => `Key batteries were changed (${tags}); change them again in two years.`,
  cover: 'Leave the cover or ornament off the key.',
  comeBack: 'If it fails again, note what the security light does, and call us before you try a third time.',

  // the grid and the head
  keyProof: (keys: string) => `Every key was tried: ${keys}.`,
};
