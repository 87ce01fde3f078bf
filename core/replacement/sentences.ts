/** What core/replacement says, by code. */
export const sentences = {
  network: 'a network without communication trouble codes',
  itemOf: (item: string, part: string) => `${part}: ${item}`,
  tool: (act: string, tool: string) => `“${act}” needs a ${tool}.`,
  keys: (act: string, n: number, role: string) => `“${act}” needs ${n === 1 ? `a ${role} key` : `${n} ${role} keys`}.`,
  byHand: (act: string) => `“${act}” needs a scan tool.`,
  waitsFor: (act: string, fact: string) => `“${act}” needs something that is not available: ${fact}.`,
  nothing: 'No known way restores it.',
  // readSituation.ts
  nothingReplaced: 'Nothing is replaced. Write a part and where the new one comes from, such as engine=new.',
  unknownPart: (name: string, list: string) => `"${name}" is not a part that can be planned. Use one of: ${list}.`,
  unknownOrigin: (name: string, list: string) => `Say where the part comes from: ${name}=one of ${list}.`,
  twice: (name: string) => `"${name}" appears twice. Leave one of them out.`,
  unknownRole: (name: string, list: string) => `"${name}" is not a role of keys. Use one of: ${list}.`,
  keyCount: (name: string, most: number) => `Write ${name}= and a whole number from 0 to ${most}.`,
  unknownFact: (name: string) =>
    `"${name}" is nothing this system type holds. Write a part and an item, such as engine.identity, or engine.saved, engine.installed.`,
  unknownTool: (name: string, list: string) =>
    `"${name}" is not a tool that is needed here. Use one of: ${list}; keys as learned=2; what is there as engine.identity.`,
} as const;
