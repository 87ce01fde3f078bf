import { connect, type Socket } from 'node:net';
import { refused } from '../../base/expected';

/** How long a meter may think, milliseconds. */
const answerMs = 2000;
/** No answer of a meter is longer. */
const longestAnswer = 256;
/** From this on an answer means overload (SCPI 1999, volume 1, 7.2.1.4: 9.9E37 stands for infinity). */
const overload = 9.8e37;

/** What one reading came to: ohms, `Infinity` for an overload. */
export interface MeterReading {
  ohms: number;
}

/** A connection to an ohmmeter that speaks SCPI over TCP (IEEE 488.2 lines ended by a line feed). One question at a time. */
export class ScpiMeter {
  #socket: Socket;
  #rest = '';
  #waiting: { resolve: (line: string) => void; reject: (error: Error) => void } | null = null;
  #gone: Error | null = null;

  private constructor(
    socket: Socket,
    readonly address: string,
  ) {
    this.#socket = socket;
    socket.setEncoding('utf8');
    socket.on('data', (text: string) => this.#take(text));
    socket.on('error', () => this.#end());
    socket.on('close', () => this.#end());
  }

  /** @throws Refused 409 in plain words when nobody answers there */
  static async open(address: string): Promise<ScpiMeter> {
    const at = address.lastIndexOf(':');
    const host = address.slice(0, at).replace(/^\[|\]$/g, '');
    const socket = await new Promise<Socket>((resolve, reject) => {
      const made = connect({ host, port: Number(address.slice(at + 1)) });
      const fail = () => {
        made.destroy();
        reject(refused(409, 'meterSilent', `No answer from ${address}. Is the meter switched on, and on this network? Type the values meanwhile.`));
      };
      made.setTimeout(answerMs, fail);
      made.once('error', fail);
      made.once('connect', () => {
        made.setTimeout(0);
        made.off('error', fail);
        resolve(made);
      });
    });
    return new ScpiMeter(socket, address);
  }

  /** Its name as it says it. */
  identity = (): Promise<string> => this.#ask('*IDN?');

  async configure(): Promise<void> {
    this.#send('CONF:RES');
  }

  /** @throws Refused when it is gone, is silent, or answers what is no number */
  async read(): Promise<MeterReading> {
    const answer = await this.#ask('MEAS:RES?');
    const value = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(answer) ? Number(answer) : NaN;
    if (Number.isNaN(value))
      throw refused(
        409,
        'meterAnswer',
        `The meter answered ${JSON.stringify(answer.slice(0, 40))}, which is not a number of ohms. Look at its display and type the value.`,
      );
    if (value >= overload) return { ohms: Infinity };
    // A meter that was zeroed may show a hair below nothing.
    return { ohms: Math.max(0, value) };
  }

  /** A setting of the simulated meter: nothing else understands it. */
  setting(name: 'RES' | 'CONT' | 'LEAD', value: number): void {
    this.#send(`SIM:${name} ${Number.isFinite(value) ? value : 'INF'}`);
  }

  close(): void {
    this.#socket.end();
    this.#socket.destroy();
  }

  #send(line: string): void {
    if (this.#gone) throw this.#gone;
    this.#socket.write(`${line}\n`);
  }

  #ask(question: string): Promise<string> {
    if (this.#waiting) throw new Error('One question at a time.');
    return new Promise<string>((resolve, reject) => {
      const timer = setTimeout(() => {
        this.#waiting = null;
        reject(refused(409, 'meterSilent', `The meter at ${this.address} does not answer. Look at its display and type the value.`));
      }, answerMs);
      const done =
        <T>(with_: (value: T) => void) =>
        (value: T) => {
          clearTimeout(timer);
          this.#waiting = null;
          with_(value);
        };
      this.#waiting = { resolve: done(resolve), reject: done(reject) };
      try {
        this.#send(question);
      } catch (error) {
        this.#waiting.reject(error as Error);
      }
    });
  }

  #take(text: string): void {
    this.#rest += text;
    const end = this.#rest.indexOf('\n');
    if (end < 0) {
      if (this.#rest.length > longestAnswer) this.#waiting?.resolve(this.#rest.slice(0, longestAnswer));
      return;
    }
    const line = this.#rest.slice(0, end).trim();
    this.#rest = this.#rest.slice(end + 1);
    this.#waiting?.resolve(line);
  }

  #end(): void {
    this.#gone = refused(409, 'meterGone', `The meter at ${this.address} was lost. What was read stays. Connect it again, then continue.`);
    this.#waiting?.reject(this.#gone);
  }
}
