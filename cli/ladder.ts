import { readFileSync, statSync } from 'node:fs';
import {
  classify,
  type Combination,
  compareWiring,
  type Conditions,
  historyPrior,
  type LadderVerdict,
  ladderVerdict,
  type Margin,
  oddUnits,
  oneRange,
  parseAccuracy,
  parseDrawerCsv,
  parseLadderCsv,
  parsePriorCsv,
  parseReading,
  parseReadings,
  parseTolerance,
  type Reading,
  type Resistor,
  searchSteps,
  type SeriesName,
  seriesNames,
  seriesValues,
  type Steps,
  substitutes,
  typedResolution,
} from '../core/ladder';
import type { Result } from '../core/units';
import { CannotUse } from './fail';
import { library } from './library';

/** Larger files are no list of readings, steps or parts. */
const mostBytes = 1_000_000;

export interface MeterOptions {
  lead?: string;
  accuracy?: string;
  resolution?: string;
  temperature?: string;
}

export interface Classified {
  mean: number | null;
  sd: number;
  n: number;
  overloads: number;
  /** Combined standard uncertainty and the expanded one with its coverage factor, ohms; null without a number. */
  u: number | null;
  expanded: number | null;
  k: number;
  step: number | null;
  nominal: number | null;
  low: number | null;
  high: number | null;
  steps: { step: number; p: number }[];
  others: { verdict: string; p: number }[];
  verdict: LadderVerdict;
  p: number;
  margin: Margin | null;
  components: { name: string; type: string; ohms: number; how: string }[];
  text: string;
}

/** `ladder classify`: which step a key holds. */
export function ladderClassify(folders: string[], options: MeterOptions & { ladder: string; readings: string }): Classified {
  const ladder = ladderNamed(folders, options.ladder);
  const readings = readingsOf('--readings', options.readings);
  const c = classify(readings, ladder, conditionsOf(options, [options.readings]));
  const said = ladderVerdict(c, ladder);
  const odd = oddUnits(readings).map((o) => `Reading ${o.index + 1} is a power of ten away from the others: was it typed in another unit?`);
  const number = (x: number) => (Number.isFinite(x) ? x : null);
  return {
    mean: number(c.mean),
    sd: c.sd,
    n: c.n,
    overloads: c.overloads,
    u: number(c.u),
    expanded: number(c.expanded),
    k: c.k,
    step: c.step?.step ?? null,
    nominal: c.step?.nominal ?? null,
    low: c.step?.low ?? null,
    high: c.step?.high ?? null,
    steps: c.steps,
    others: c.others,
    verdict: c.verdict,
    p: c.p,
    margin: c.margin,
    components: c.components,
    text: [said.head, said.text, ...odd].join(' '),
  };
}

export interface WiringFound {
  verdict: string;
  seriesOhms?: number;
  parallelOhms?: number;
  /** Standard uncertainty of that resistance, ohms. */
  u?: number;
  keyOhms: number | null;
  columnOhms: number | null;
  step: number | null;
  text: string;
}

/** `ladder wiring`: the same key alone and through the column. */
export function ladderWiring(
  folders: string[],
  options: MeterOptions & { ladder: string; key: string; column: string; contacts?: string },
): WiringFound {
  const ladder = ladderNamed(folders, options.ladder);
  const contactOhms = options.contacts === undefined ? ladder.contactOhms : ohmsOption('--contacts', options.contacts);
  const found = compareWiring(
    readingsOf('--key', options.key),
    readingsOf('--column', options.column),
    { ...ladder, ...(contactOhms === undefined ? {} : { contactOhms }) },
    conditionsOf(options, [options.key, options.column]),
  );
  const through = found.series ?? found.parallel;
  return {
    verdict: found.verdict,
    ...(found.series ? { seriesOhms: found.series.ohms } : {}),
    ...(found.parallel ? { parallelOhms: found.parallel.ohms } : {}),
    ...(through ? { u: through.u } : {}),
    keyOhms: Number.isFinite(found.key.mean) ? found.key.mean : null,
    columnOhms: Number.isFinite(found.column.mean) ? found.column.mean : null,
    step: found.seen,
    text: found.text,
  };
}

export interface SubstituteOptions {
  target: string;
  window?: string;
  series: string;
  parts?: string;
  tolerance?: string;
  volts?: string;
  limit?: string;
}
type CombinationFound = Pick<Combination, 'expression' | 'parts' | 'nominal' | 'worstLow' | 'worstHigh' | 'error' | 'inside' | 'hottestWatts'>;

/** `ladder substitute`: resistors that stand in for a step. */
export function ladderSubstitute(options: SubstituteOptions): { combinations: CombinationFound[] } {
  const targetOhms = ohmsOption('--target', options.target);
  const mostParts = wholeNumber('--parts', options.parts ?? '3', 1, 3) as 1 | 2 | 3;
  const limit = wholeNumber('--limit', options.limit ?? '10', 1, 1000);
  const tolerance = options.tolerance === undefined ? undefined : use('--tolerance', parseTolerance(options.tolerance));
  const window = options.window === undefined ? undefined : windowOf(options.window);
  const senseVolts = options.volts === undefined ? undefined : number('--volts', options.volts, 0, 1000);
  const found = substitutes(stockOf(options.series, tolerance), {
    targetOhms,
    mostParts,
    limit,
    ...(window ? { window } : {}),
    ...(senseVolts === undefined ? {} : { senseVolts }),
  })!;
  return {
    combinations: found.map(({ expression, parts, nominal, worstLow, worstHigh, error, inside, hottestWatts }) => ({
      expression,
      parts,
      nominal,
      worstLow,
      worstHigh,
      error,
      inside,
      hottestWatts,
    })),
  };
}

function stockOf(series: string, tolerance: number | undefined): Resistor[] {
  if ((seriesNames as string[]).includes(series)) return seriesValues(series as SeriesName, tolerance);
  const drawer = use(`--series ${series}`, parseDrawerCsv(readText('--series', series, `Use ${seriesNames.join(', ')} or a CSV file.`)));
  return tolerance === undefined ? drawer : drawer.map((r) => ({ ...r, tolerance }));
}

function windowOf(text: string): { low: number; high: number } {
  const [low, high, ...more] = text.split(',');
  if (low === undefined || high === undefined || more.length > 0) throw new CannotUse(`--window ${text}: write two values, such as 1320,1480.`);
  const window = { low: ohmsOption('--window', low), high: ohmsOption('--window', high) };
  if (window.low > window.high) throw new CannotUse(`--window ${text}: the window ends below its beginning. Swap the two.`);
  return window;
}

export interface SearchOptions {
  ladder: string;
  lockout: string;
  try: string;
  prior?: string;
}

/** `ladder search`: in which order to try unknown steps. */
export function ladderSearch(folders: string[], options: SearchOptions): { order: number[]; expectedSeconds: number; worstSeconds: number } {
  const ladder = ladderNamed(folders, options.ladder);
  const prior =
    options.prior === undefined
      ? historyPrior(ladder.steps.map(() => 0))
      : use(`--prior ${options.prior}`, parsePriorCsv(readText('--prior', options.prior, 'Use a CSV file with step,p.'), ladder.steps));
  const times = { lockoutS: number('--lockout', options.lockout, 0, 86_400), tryS: number('--try', options.try, 0, 86_400) };
  const { order, expectedSeconds, worstSeconds } = searchSteps(
    ladder.steps.map((s, i) => ({ step: s.step, p: prior[i]! })),
    times,
  )!;
  return { order, expectedSeconds, worstSeconds };
}

/** A ladder of the library by its id, or one from a CSV file. */
function ladderNamed(folders: string[], name: string): Steps {
  const { ladders } = library(folders);
  const known = ladders.get(name);
  if (known) return known;
  const text = readText('--ladder', name, `Use one of ${[...ladders.keys()].join(', ')}, or a CSV file with step,nominal,low,high.`);
  return { steps: use(`--ladder ${name}`, parseLadderCsv(text)) };
}

/** On the command line a comma parts readings, so decimals have a point there; `@file` reads a column from a file. */
function readingsOf(option: string, text: string): Reading[] {
  if (text.startsWith('@')) return use(`${option} ${text}`, parseReadings(readText(option, text.slice(1), 'Use a file with a reading to a line.')));
  return text.split(',').map((cell, i) => use(`${option}: reading ${i + 1}`, parseReading(cell)));
}

function conditionsOf(options: MeterOptions, typed: string[]): Conditions {
  const accuracy = use('--accuracy', parseAccuracy(options.accuracy ?? '1%+5'));
  const resolutionOhms =
    options.resolution === undefined
      ? typedResolution(typed.flatMap((t) => (t.startsWith('@') ? [] : t.split(','))))
      : ohmsOption('--resolution', options.resolution);
  return {
    meter: oneRange('The meter', { ...accuracy, resolutionOhms }),
    // Without a word about them the leads count as subtracted: that is how a script gives its readings.
    leadOhms: options.lead === undefined ? 0 : leadOption(options.lead),
    temperatureC: options.temperature === undefined ? 20 : number('--temperature', options.temperature, -60, 150),
  };
}

function leadOption(text: string): number {
  const read = use('--lead', parseReading(text));
  if (Number.isFinite(read) && read <= 1000) return read;
  throw new CannotUse(`--lead ${text}: write the ohms of the leads, such as 0.4.`);
}

function ohmsOption(option: string, text: string): number {
  const read = use(option, parseReading(text));
  if (Number.isFinite(read) && read > 0) return read;
  throw new CannotUse(`${option} ${text}: write ohms above zero, such as 1180 or 1.18k.`);
}

function number(option: string, text: string, min: number, max: number): number {
  const value = text.trim() === '' ? NaN : Number(text);
  if (value >= min && value <= max) return value;
  throw new CannotUse(`${option} ${text}: write a number from ${min} to ${max}.`);
}

function wholeNumber(option: string, text: string, min: number, max: number): number {
  const value = number(option, text, min, max);
  if (Number.isInteger(value)) return value;
  throw new CannotUse(`${option} ${text}: write a whole number from ${min} to ${max}.`);
}

function readText(option: string, file: string, otherwise: string): string {
  try {
    if (statSync(file).size > mostBytes) throw new CannotUse(`${option} ${file}: larger than ${mostBytes} bytes. Choose the right file.`);
    return readFileSync(file, 'utf8');
  } catch (error) {
    if (error instanceof CannotUse) throw error;
    throw new CannotUse(`${option} ${file}: can’t be read. ${otherwise}`);
  }
}

function use<T>(where: string, read: Result<T>): T {
  if (read.ok) return read.value;
  const [first] = read.problems;
  const more = read.problems.length > 1 ? ` (and ${read.problems.length - 1} more)` : '';
  throw new CannotUse([where, first!.path, `${first!.message}${more}`].filter(Boolean).join(': '));
}
