import type { Role } from './db/schema';

/** Every act and who may do it (product.md, "People and rights"). One person may have several roles. */
export const rights = {
  look: ['technician', 'lead', 'owner'],
  openCase: ['technician', 'lead'],
  recordEvidence: ['technician', 'lead'],
  recordAuthority: ['technician', 'lead'],
  work: ['technician', 'lead'],
  waivePrecondition: ['lead'],
  verifyKeys: ['technician', 'lead'],
  closeCase: ['technician', 'lead'],
  closeWithoutProof: ['lead'],
} as const satisfies Record<string, readonly Role[]>;
export type Right = keyof typeof rights;

/** Who acts, on every action from the first day. */
export interface Person {
  id: string;
  name: string;
  initials: string;
  roles: Role[];
}

export const may = (person: Person, right: Right): boolean => person.roles.some((role) => (rights[right] as readonly Role[]).includes(role));
