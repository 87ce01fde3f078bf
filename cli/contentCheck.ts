import { type FileProblem, readContent } from '../content/reader';

/** `content check` */
export function contentCheck(folders: string[]): { files: number; errors: FileProblem[] } {
  const { files, errors } = readContent(...folders);
  return { files, errors };
}
