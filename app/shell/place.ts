import { useMatches } from 'react-router';

/** What a page tells the strip about itself: `export const handle = { place: (data) => ({title, detail}) }`. */
export interface PlaceHandle {
  place(data: never): { title: string; detail?: string };
}

export function usePlace(): { title: string; detail: string } {
  const found = useMatches().findLast(
    (m) => (m.handle as PlaceHandle | undefined)?.place && (m.loaderData !== undefined || m.id.startsWith('places/')),
  );
  const place = found ? (found.handle as PlaceHandle).place(found.loaderData as never) : { title: 'Bloodstone' };
  return { title: place.title, detail: place.detail ?? '' };
}
