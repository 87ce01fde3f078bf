/** What the checks of replacement content say, by their code: read by whoever writes content. */
export const lintSentences = {
  unknownShared: (reference: string, there: string | undefined) =>
    `Shared acts "${reference}" do not exist. ${there === undefined ? 'Name a document of kind replacement-acts.' : `Use ${there}.`}`,
  unknownWithout: (id: string) => `No shared act is named "${id}". Remove it from the list.`,
  unknownFamily: (id: string) => `System type "${id}" does not exist. The id of a replacement is that of its system type.`,
  sameHoldsNothing: (name: string) => `"${name}" holds nothing itself. Name a part that holds something.`,
  holdsNot: (fact: string) => `"${fact}" is not an item of a part here. Name a part and an item that it holds.`,
  nothingBrings: (part: string, item: string) =>
    `Nothing brings "${item}" of "${part}" back. Add an act that gives it, or list the origins that keep it.`,
  unknownProcedure: (id: string) => `Procedure "${id}" does not exist. Name one of the library.`,
  unknownAct: (id: string) => `Act "${id}" does not exist. Name an act of this system type.`,
  partWithoutEach: '"$part" needs each: it stands for one replaced part after the other. Add each, or name the part.',
} as const;
