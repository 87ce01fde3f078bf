import type { Note } from '../../server/floor/notes';

export function noteWords(note: Note, hm: (ms: number) => string): string {
  switch (note.kind) {
    case 'later':
      return `${note.bay} and ${inside(note.other)} would both need somebody at ${hm(note.at)}: start ${inside(note.bay)} ${note.minutes} min later.`;
    case 'missed':
      return `${note.bay} can’t be reached by ${hm(note.at)}. Ask somebody to help, or expect to do that cycle again.`;
    case 'late':
      return `${note.bay} will be ${note.minutes} min after its promise. Tell the customer.`;
    case 'tool':
      return `${note.bay} needs the scan tool, and ${inside(note.other)} has it until ${hm(note.at)}.`;
    case 'untrained':
      return `${note.bay} takes somebody trained for ${note.work}, and nobody at work is. The plan gives it to anybody.`;
    case 'notTrained':
      return `${note.bay} is for ${note.name}, who isn’t trained for ${note.work}.`;
    case 'away':
      return `${note.bay} is for ${note.name}, who is not at work. The plan gives it to anybody.`;
  }
}
/** A bay's name inside a sentence. */
const inside = (bay: string) => bay.replace(/^(Bay|Van|No)\b/, (word) => word.toLowerCase());
