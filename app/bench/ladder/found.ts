import {
  assessKey,
  assessWiggle,
  compareWiring,
  type Conditions,
  type KeyAssessed,
  type Ladder,
  type Meter,
  received,
  type Wiggle,
  type Wiring,
} from '../../../core/ladder';
import { type Captured, groupsOf, type Sheet } from './sheet';

// What the three worksheets come to. With it come the statistics, so it is loaded apart (useFound.ts).

/** What the readings of the key alone come to; null while there is none. */
export function keyFound(sheet: Sheet, ladder: Ladder, conditions: Conditions): KeyAssessed | null {
  const groups = groupsOf(sheet).filter((g) => g.side <= ladder.pellets);
  return groups.length === 0 ? null : assessKey(groups, ladder, conditions);
}

/** The key alone against the key through the column; null until both were read. */
export function columnFound(sheet: Sheet, ladder: Ladder, contactOhms: number | undefined, conditions: Conditions): Wiring | null {
  const own = groupsOf(sheet).flatMap((g) => g.readings);
  if (own.length === 0 || sheet.column.length === 0) return null;
  return compareWiring(own, sheet.column.map(received), contactOhms === undefined ? ladder : { ...ladder, contactOhms }, conditions);
}

/** What a capture comes to; null while there is none. */
export const wiggleFound = ({ samples, marks }: Captured, meter: Meter): Wiggle | null =>
  samples.length === 0
    ? null
    : assessWiggle(
        samples.map(([atS, ohms]) => ({ atS, ohms: received(ohms) })),
        marks.map(([atS, say]) => ({ atS, say })),
        meter,
      );
