import { createServer, type Server, type Socket } from 'node:net';
import { Harness, lead, refusal, technician } from '../../services/harness.testing';
import { enterSimulatedMeter, listMeters, parseMeter, parseMeterId, retireMeter, saveMeter } from '../meters';
import { captureMeter, readMeter, setSimulated } from './bench';
import { parseCircuit } from './forms';
import { ScpiMeter } from './scpi';
import { type SimulatedMeter, startSimulatedMeter } from './simulatedMeter';

let harness: Harness;
let simulated: SimulatedMeter;
const others: Server[] = [];
beforeAll(async () => {
  harness = await Harness.open();
  simulated = await startSimulatedMeter(0, 5);
  await enterSimulatedMeter(harness.db, simulated.port);
});
afterAll(async () => {
  await simulated.close();
  for (const server of others) server.close();
  await harness.close();
});

/** A meter that answers what it is told to. */
async function strangeMeter(answer: (line: string, socket: Socket) => void): Promise<string> {
  const server = createServer((socket) => {
    socket.setEncoding('utf8');
    socket.on('error', () => {});
    socket.on('data', (text: string) =>
      text
        .split('\n')
        .filter(Boolean)
        .forEach((line) => answer(line, socket)),
    );
  });
  others.push(server);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return `127.0.0.1:${(server.address() as { port: number }).port}`;
}
async function shopMeter(address: string): Promise<string> {
  const ranges = [{ upToOhms: 1e6, percent: 1, digits: 2, resolutionOhms: 1 }];
  return (await saveMeter(harness.db, harness.act(lead), parseMeter({ name: `Meter ${address}`, address, ranges }))).id;
}

describe('the simulated meter', () => {
  test('says that it is one, and answers what it is connected to, with noise and steps', async () => {
    const meter = await ScpiMeter.open(`127.0.0.1:${simulated.port}`);
    expect(await meter.identity()).toBe('BLOODSTONE,SIMULATED METER,0,1');
    await meter.configure();
    const readings: number[] = [];
    for (let i = 0; i < 20; i += 1) readings.push((await meter.read()).ohms);
    meter.close();
    for (const r of readings) {
      expect(Math.abs(r - 1392.38)).toBeLessThan(1392 * 0.004);
      expect(Math.abs(r * 10 - Math.round(r * 10))).toBeLessThan(1e-6);
    }
    expect(new Set(readings).size).toBeGreaterThan(5);
  });

  test('its contact can be worsened until it is open more often than not, and nothing at all can be connected', async () => {
    const opens = async (form: Record<string, unknown>) => {
      await setSimulated(harness.services, parseCircuit({ meter: 'simulated', ...form }));
      let n = 0;
      for (let i = 0; i < 30; i += 1) if ((await readMeter(harness.services, 'simulated')).ohms === null) n += 1;
      return n;
    };
    expect(await opens({ ohms: 1400, badness: 0 })).toBe(0);
    const bad = await opens({ ohms: 1400, badness: 1 });
    expect(bad).toBeGreaterThan(10);
    expect(bad).toBeLessThan(30);
    expect(await opens({ ohms: null, badness: 0 })).toBe(30);
    await setSimulated(harness.services, parseCircuit({ meter: 'simulated', ohms: 1400, badness: 0 }));
  });

  test('is listed as what it is, and not edited', async () => {
    expect(await listMeters(harness.db)).toEqual([
      expect.objectContaining({ id: 'simulated', name: 'Simulated meter', simulated: true, address: `127.0.0.1:${simulated.port}` }),
    ]);
    expect(
      await refusal(
        saveMeter(
          harness.db,
          harness.act(lead),
          parseMeter({ id: 'simulated', name: 'Mine', address: '', ranges: [{ upToOhms: 1, percent: 1, digits: 1, resolutionOhms: 1 }] }),
        ),
      ),
    ).toMatchObject({ code: 'simulated' });
  });
});

describe('a capture', () => {
  /** The events of a stream, until it ends or `enough` says so. */
  async function events(id: string, enough: (n: number) => void = () => {}, control = new AbortController()) {
    const response = await captureMeter(harness.services, id, control.signal);
    expect(response.headers.get('content-type')).toBe('text/event-stream');
    const reader = response.body!.pipeThrough(new TextDecoderStream() as ReadableWritablePair<string, Uint8Array>).getReader();
    const seen: { event: string; data: unknown }[] = [];
    for (;;) {
      const { value, done } = await reader.read();
      if (done) return seen;
      for (const block of value.split('\n\n').filter(Boolean)) {
        const [event, data] = block.split('\n');
        seen.push({ event: event!.slice(7), data: JSON.parse(data!.slice(6)) });
        enough(seen.length);
      }
    }
  }

  test('gives readings with their seconds until the page goes away', async () => {
    const control = new AbortController();
    const seen = await events('simulated', (n) => n === 4 && control.abort(), control);
    expect(seen.length).toBeGreaterThanOrEqual(4);
    const times = seen.map((s) => (s.data as [number, number])[0]);
    expect([...times].sort((a, b) => a - b)).toEqual(times);
    expect(seen.every((s) => s.event === 'sample')).toBe(true);
  });

  test('a meter that goes away in the middle: what was read stays, and it is said', async () => {
    let n = 0;
    const id = await shopMeter(
      await strangeMeter((line, socket) => {
        if (!line.startsWith('MEAS')) return;
        n += 1;
        if (n > 3) socket.destroy();
        else socket.write('1.400E+3\n');
      }),
    );
    const seen = await events(id);
    expect(seen.slice(0, 3).map((s) => s.event)).toEqual(['sample', 'sample', 'sample']);
    expect(seen[3]).toEqual({ event: 'problem', data: expect.stringMatching(/^The meter at 127\.0\.0\.1:\d+ was lost\. What was read stays\./) });
  });

  test('an unknown meter, and one that is read by eye', async () => {
    expect(await events('gone')).toEqual([{ event: 'problem', data: 'This meter is not in the shop’s list. Choose one from the list.' }]);
    expect(await events(await shopMeter(''))).toEqual([{ event: 'problem', data: expect.stringContaining('is read by eye. Type what it shows.') }]);
  });
});

describe('meters that don’t do what they should', () => {
  test.each([
    ['a word', 'hello', 'meterAnswer'],
    ['nothing between two line ends', '', 'meterAnswer'],
    ['a very long answer without an end', 'x'.repeat(500), 'meterAnswer'],
  ])('%s', async (_what, said, code) => {
    const id = await shopMeter(await strangeMeter((line, socket) => line.startsWith('MEAS') && socket.write(said.length > 300 ? said : `${said}\n`)));
    expect(await refusal(readMeter(harness.services, id))).toMatchObject({ status: 409, code });
  });
  test('infinity is an overload, a hair below zero is zero', async () => {
    const one = await shopMeter(await strangeMeter((line, socket) => line.startsWith('MEAS') && socket.write('+9.90000000E+37\r\n')));
    expect(await readMeter(harness.services, one)).toEqual({ ohms: null });
    const other = await shopMeter(await strangeMeter((line, socket) => line.startsWith('MEAS') && socket.write('-0.02\n')));
    expect(await readMeter(harness.services, other)).toEqual({ ohms: 0 });
  });
  test('nobody there', async () => {
    const address = await strangeMeter(() => {});
    await new Promise<void>((resolve) => others.pop()!.close(() => resolve()));
    expect(await refusal(readMeter(harness.services, await shopMeter(address)))).toMatchObject({
      status: 409,
      message: `No answer from ${address}. Is the meter switched on, and on this network? Type the values meanwhile.`,
    });
  });
  test('there, and silent', async () => {
    const id = await shopMeter(await strangeMeter(() => {}));
    expect(await refusal(readMeter(harness.services, id))).toMatchObject({ status: 409, code: 'meterSilent' });
  });
  test('only a simulation is set', async () => {
    const id = await shopMeter(await strangeMeter(() => {}));
    expect(await refusal(setSimulated(harness.services, parseCircuit({ meter: id, ohms: 1, badness: 0 })))).toMatchObject({ code: 'notSimulated' });
  });
});

describe('the list of meters', () => {
  const ranges = [{ upToOhms: 1e6, percent: 1, digits: 2, resolutionOhms: 1 }];
  test('saved, changed, taken out of use; a name once; only by who may', async () => {
    const { id } = await saveMeter(harness.db, harness.act(lead), parseMeter({ name: 'Hand meter', address: '', ranges }));
    await saveMeter(harness.db, harness.act(lead), parseMeter({ id, name: 'Hand meter, yellow', address: 'bench-1.local:5025', ranges }));
    expect((await listMeters(harness.db)).find((m) => m.id === id)).toMatchObject({ name: 'Hand meter, yellow', address: 'bench-1.local:5025' });
    expect(await refusal(saveMeter(harness.db, harness.act(lead), parseMeter({ name: 'hand METER, yellow', address: '', ranges })))).toMatchObject({
      code: 'nameTaken',
      path: 'name',
    });
    await retireMeter(harness.db, harness.act(lead), parseMeterId({ id }));
    expect((await listMeters(harness.db)).find((m) => m.id === id)).toBeUndefined();
    expect(await refusal(saveMeter(harness.db, harness.act(lead), parseMeter({ id, name: 'Again', address: '', ranges })))).toMatchObject({
      status: 404,
    });
    expect(await refusal(saveMeter(harness.db, harness.act(technician), parseMeter({ name: 'Other', address: '', ranges })))).toMatchObject({
      status: 403,
    });
    expect(await refusal(retireMeter(harness.db, harness.act(lead), 'gone'))).toMatchObject({ status: 404 });
  });
  test.each([
    [{ name: '', address: '', ranges }, 'name'],
    [{ name: 'M', address: 'nowhere', ranges }, 'address'],
    [{ name: 'M', address: 'host:0', ranges }, 'address'],
    [{ name: 'M', address: 'host:65536', ranges }, 'address'],
    [{ name: 'M', address: 'a b:5025', ranges }, 'address'],
    [{ name: 'M', address: '', ranges: [] }, 'ranges'],
    [{ name: 'M', address: '', ranges: [{ ...ranges[0], percent: 30 }] }, 'ranges[0].percent'],
    [{ name: 'M', address: '', ranges: [ranges[0], { ...ranges[0], upToOhms: 1000 }] }, 'ranges[1].upToOhms'],
  ])('%j is refused at %s', (form, path) => {
    let problems: { path: string }[] = [];
    try {
      parseMeter(form);
    } catch (error) {
      problems = (error as { problems: { path: string }[] }).problems;
    }
    expect(problems.map((p) => p.path)).toEqual([path]);
  });
  test.each(['192.168.0.40:5025', 'meter.example.com:1', '[fe80::1]:65535'])('%s is an address', (address) =>
    expect(parseMeter({ name: 'M', address, ranges }).address).toBe(address),
  );
});
