import { setTimeout as pause } from 'node:timers/promises';
import { longestWiggleS, sent } from '../../../core/ladder';
import { Refused, refused } from '../../base/expected';
import { meterNamed, type ShopMeter } from '../meters';
import type { Services } from '../../services/services';
import type { CircuitForm } from './forms';
import { ScpiMeter } from './scpi';

async function reachable(services: Services, id: string): Promise<ShopMeter> {
  const meter = await meterNamed(services.database.db, id);
  if (meter.address === '') throw refused(409, 'noAddress', `${meter.name} is read by eye. Type what it shows.`);
  return meter;
}

/** One reading. @throws Refused in plain words when the meter does not answer, or answers nonsense */
export async function readMeter(services: Services, id: string): Promise<{ ohms: number | null }> {
  const { address } = await reachable(services, id);
  const meter = await ScpiMeter.open(address);
  try {
    await meter.configure();
    return { ohms: sent((await meter.read()).ohms) };
  } finally {
    meter.close();
  }
}

/** Connects the simulated meter to another resistor or contact. @throws Refused for a meter that is none */
export async function setSimulated(services: Services, { meter: id, ohms, badness }: CircuitForm): Promise<{ said: string }> {
  const found = await reachable(services, id);
  if (!found.simulated) throw refused(409, 'notSimulated', `${found.name} is not a simulated meter. Connect it by hand.`);
  const meter = await ScpiMeter.open(found.address);
  try {
    await meter.identity();
    meter.setting('RES', ohms ?? Infinity);
    meter.setting('CONT', badness);
    // An answer to a later question shows that the settings were taken.
    await meter.identity();
    return { said: 'The simulated meter is connected.' };
  } finally {
    meter.close();
  }
}

/** Between two readings of a capture, milliseconds. */
const everyMs = 100;

/**
 * Readings one after the other, as server-sent events: `sample` with seconds and ohms, `problem` with a sentence, `end`. It ends after a minute, when the page
 * goes away, or when the meter does; what was sent stays with the page.
 */
export async function captureMeter(services: Services, id: string, signal: AbortSignal): Promise<Response> {
  const encoder = new TextEncoder();
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      const send = (event: string, data: unknown) => controller.enqueue(encoder.encode(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`));
      let meter: ScpiMeter | null = null;
      try {
        meter = await ScpiMeter.open((await reachable(services, id)).address);
        await meter.configure();
        const began = performance.now();
        for (;;) {
          const { ohms } = await meter.read();
          const atS = (performance.now() - began) / 1000;
          if (signal.aborted || atS > longestWiggleS) break;
          send('sample', [Math.round(atS * 1000) / 1000, sent(ohms)]);
          await pause(everyMs, undefined, { signal });
        }
        if (!signal.aborted) send('end', null);
      } catch (error) {
        if (signal.aborted) return;
        if (!(error instanceof Refused)) throw error;
        send('problem', error.message);
      } finally {
        meter?.close();
        try {
          controller.close();
        } catch {
          // The page went away first, and its stream with it.
        }
      }
    },
  });
  return new Response(stream, { headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-cache, no-transform' } });
}
