import { stringify } from 'yaml';
import type { Library } from '../../content/reader';
import type { Layout } from '../../core/memory';
import { parseLayout } from '../../core/memory/schema';
import { Refused, refused } from '../base/expected';
import type { Keeping } from '../db/kept';
import { document, retiredDocument } from '../db/schema';
import { type ListedDocument, listDocuments } from './shopDocuments';

/** Every layout of key memories in its newest version, the shop's own and the shipped ones, by title. */
export const keptLayouts = ({ kept, database, library }: Keeping & { library: Library }): Promise<ListedDocument<'layout'>[]> =>
  kept.read('layouts', [document, retiredDocument], () => listDocuments(database.db, library, 'layout'));

/** The newest version of a layout. @throws Refused where the library has none of this name */
export async function layoutNamed(services: Keeping & { library: Library }, id: string): Promise<Layout> {
  const found = (await keptLayouts(services)).find((l) => l.body.id === id);
  if (!found) throw refused(400, 'noLayout', 'This layout is not in the library. Choose one from the list.', 'layout');
  return found.body;
}

/** A layout that came as a file. @throws Refused with every problem and its path */
export function readLayout(data: unknown): Layout {
  const parsed = parseLayout(data);
  if (!parsed.ok) throw new Refused(400, parsed.problems);
  return parsed.value;
}

export const layoutYaml = (layout: Layout): string => stringify(layout, { lineWidth: 120 });
