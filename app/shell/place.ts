import { useMatches } from 'react-router';

/** What a page tells the strip about itself: `export const handle = { place: (data) => ({title, detail}) }`. */
export interface PlaceHandle {
  place(data: never): { title: string; detail?: string };
}

export function usePlace(): { title: string; detail: string } {
  // A place that needs data is passed over while its loader has failed.
  const found = useMatches().findLast((m) => {
    const place = (m.handle as PlaceHandle | undefined)?.place;
    return place && (place.length === 0 || (m.loaderData !== undefined && m.loaderData !== null));
  });
  const place = found ? (found.handle as PlaceHandle).place(found.loaderData as never) : { title: 'Bloodstone' };
  return { title: place.title, detail: place.detail ?? '' };
}
