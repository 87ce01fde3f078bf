import { type ModuleName, moduleNames, type Origin, origins } from '../../core/replacement';

/** What of a vehicle is replaced and what is at hand, as it stands in the address of its plan; parts and tools that nobody knows are left out. */
export interface ReplacementQuery {
  replaced: Partial<Record<ModuleName, Origin>>;
  tools: string[];
  /** Parts that are in the vehicle already. */
  installed: ModuleName[];
  /** Parts that came out, or can't be read, without anything having been saved of them. */
  unread: ModuleName[];
  /** The form was sent: what isn't ticked is not there. */
  asked: boolean;
}

export function parseReplacementQuery(params: URLSearchParams): ReplacementQuery {
  const known = (origin: string | null): origin is Origin => (origins as readonly (string | null)[]).includes(origin);
  const replaced = Object.fromEntries(
    moduleNames.flatMap((name) => {
      const origin = params.get(name);
      return known(origin) ? [[name, origin] as const] : [];
    }),
  );
  return {
    replaced,
    tools: [...new Set(params.getAll('tool').slice(0, 20))],
    installed: moduleNames.filter((name) => params.getAll('installed').includes(name)),
    unread: moduleNames.filter((name) => params.getAll('unread').includes(name)),
    asked: params.has('asked') || Object.keys(replaced).length > 0,
  };
}
