import { type ReactNode, useEffect, useState } from 'react';
import type { ShopUnits } from '../../core/units';
import type { ClockReading } from '../../server/services/clock';
import { Clock, tickMs, Units, Zone } from '../ui/clock';
import { PageClock } from '../ui/pageClock';

/** The shop's time for a page on which nobody is signed in: it counts by itself, and hears of no change. */
export function QuietClock({
  reading,
  timeZone,
  units,
  children,
}: {
  reading: ClockReading;
  timeZone: string;
  units: ShopUnits;
  children: ReactNode;
}) {
  const [clock] = useState(() => new PageClock(reading));
  useEffect(() => clock.set(reading), [clock, reading]);
  useEffect(() => {
    const tick = setInterval(() => clock.tick(), tickMs);
    return () => clearInterval(tick);
  }, [clock]);
  return (
    <Clock value={clock}>
      <Zone value={timeZone}>
        <Units value={units}>{children}</Units>
      </Zone>
    </Clock>
  );
}
