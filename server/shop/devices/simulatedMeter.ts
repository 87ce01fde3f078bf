import { createServer, type Server, type Socket } from 'node:net';
import { generator } from '../../../core/units';

/** What the simulated meter is connected to. */
interface Circuit {
  /** The resistor, ohms; Infinity: nothing. */
  ohms: number;
  /** Leads, ohms. */
  leadOhms: number;
  /** How bad the contact is, 0 (sound) to 1 (more open than not). */
  badness: number;
}

export interface SimulatedMeter {
  port: number;
  circuit: Circuit;
  close(): Promise<void>;
}

const { cos, log, sqrt, PI } = Math;

/**
 * A stand-in for an ohmmeter, shipped so that the bench can be tried without a device. It answers `*IDN?`, `CONF:RES` and `MEAS:RES?` as a real one does, with
 * noise, a gain that is a little off, steps of its display, and a contact that can be worsened: `SIM:RES <ohms>`, `SIM:CONT <0..1>`, `SIM:LEAD <ohms>` set what it is
 * connected to. It names itself a simulation.
 * @param port 0: any that is free
 */
export async function startSimulatedMeter(port = 0, seed = 1): Promise<SimulatedMeter> {
  const draw = generator(seed);
  const normal = () => sqrt(-2 * log(1 - draw())) * cos(2 * PI * draw());
  const circuit: Circuit = { ohms: 1392, leadOhms: 0.38, badness: 0 };
  const gain = 1 + 0.001 * (2 * draw() - 1);
  const measured = (): string => {
    const { ohms, leadOhms, badness } = circuit;
    if (!Number.isFinite(ohms) || draw() < badness * 0.6) return '9.90000000E+37';
    // A worn contact adds resistance that is never the same twice; a sound one hardly scatters.
    const contact = badness * 60 * draw() + badness * badness * 400 * draw();
    const value = (ohms + leadOhms + contact) * gain * (1 + 0.0004 * normal());
    const step = value < 500 ? 0.01 : value < 5000 ? 0.1 : 1;
    return (Math.max(0, Math.round(value / step)) * step).toExponential(8).replace('e', 'E');
  };
  const answer = (line: string): string | null => {
    const command = line.trim().toUpperCase();
    if (command === '*IDN?') return 'BLOODSTONE,SIMULATED METER,0,1';
    if (command === 'MEAS:RES?' || command === 'READ?') return measured();
    const set = /^SIM:(RES|CONT|LEAD) (INF|[0-9.E+-]+)$/.exec(command);
    if (!set) return null;
    const value = set[2] === 'INF' ? Infinity : Number(set[2]);
    if (Number.isNaN(value) || value < 0) return null;
    if (set[1] === 'RES') circuit.ohms = value;
    else if (set[1] === 'CONT') circuit.badness = Math.min(1, value);
    else circuit.leadOhms = value;
    return null;
  };
  const sockets = new Set<Socket>();
  const server: Server = createServer((socket) => {
    sockets.add(socket);
    let rest = '';
    socket.setEncoding('utf8');
    socket.on('error', () => {});
    socket.on('close', () => sockets.delete(socket));
    socket.on('data', (text: string) => {
      rest = (rest + text).slice(-1000);
      const lines = rest.split('\n');
      rest = lines.pop()!;
      for (const line of lines) {
        const said = answer(line);
        if (said !== null) socket.write(`${said}\n`);
      }
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  return {
    port: (server.address() as { port: number }).port,
    circuit,
    close: () =>
      new Promise((resolve) => {
        for (const socket of sockets) socket.destroy();
        server.close(() => resolve());
      }),
  };
}
