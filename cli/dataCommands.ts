/** Commands on a shop's data: they are done by server/backup/command.ts, and have their own --help. */
export const dataCommands = {
  backup: 'make an encrypted backup of a shop’s data',
  restore: 'restore a backup into a new folder or a PostgreSQL server',
  verify: 'restore a backup into memory and look through it',
  check: 'read a whole database and say what is wrong',
  move: 'move a shop from its folder to a PostgreSQL server',
} as const;
