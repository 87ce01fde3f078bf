/** Minutes as one says them. @example lasting(100) // '1 h 40 min' */
export const lasting = (minutes: number): string =>
  minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h${minutes % 60 === 0 ? '' : ` ${minutes % 60} min`}`;
