import { library } from './library';

/** `profiles list` */
export function profilesList(folders: string[]): { id: string; family: string; title: string }[] {
  return [...library(folders).profiles.values()].map(({ id, family, title }) => ({ id, family, title }));
}
