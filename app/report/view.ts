import { timesIn } from '../../core/units';
import type { readReport } from '../../server/cases/report';

/** Everything that a report shows. */
export type ReportView = NonNullable<Awaited<ReturnType<typeof readReport>>>;

/** What a part of the report is made of; times in the zone that stands at its foot. */
export interface Part {
  report: ReportView;
  timeZone: string;
}
export const timesOf = ({ report, timeZone }: Part) => timesIn(timeZone, report.units);
