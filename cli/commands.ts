import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Command, CommanderError, Option } from 'commander';
import { codesExplain, codesFind } from './codes';
import { contentCheck } from './contentCheck';
import { figuresAsMarkdown, figuresOfContent } from './contentFigures';
import { copycheckCompare, type CopycheckOptions } from './copycheck';
import { dataCommands } from './dataCommands';
import { diagnoseNext, diagnoseSimulate, type NextOptions, type SimulateOptions } from './diagnose';
import { CannotUse, Found } from './fail';
import { relevanceWords } from '../core/codes';
import { alphabets } from '../core/copycheck';
import { policyNames } from '../core/diagnosis';
import { type LampMoment, lampMoments } from '../core/library';
import { reserveVerdict } from '../core/reserve';
import { formatChance, formatQuantity } from '../core/units';
import { identifySeen } from './identify';
import {
  ladderClassify,
  ladderSearch,
  ladderSubstitute,
  ladderWiring,
  type MeterOptions,
  type SearchOptions,
  type SubstituteOptions,
} from './ladder';
import { lampRead } from './lamp';
import { memoryDiff, memoryRead } from './memory';
import { draftLine, procedureDraft, procedureLint, procedureReplay, procedureTable, tableAsMarkdown } from './procedure';
import { profilesList } from './profiles';
import { type PlanOptions, replacementPlan, replacementTable } from './replacement';
import { burstAnalyse, burstCompare } from './burst';
import { reservePredict, type ReserveOptions } from './reserve';
import { schedulePlan } from './schedule';
import { trialsAssess, type TrialsOptions } from './trials';
import { vinCheck } from './vin';
import { words } from './words';

/** The folder of shipped content, beside this one. */
const shipped = join(fileURLToPath(import.meta.url), '../../content');

const program = new Command('bloodstone')
  .description('The core at a command line')
  .addHelpText(
    'after',
    `\nA shop’s data (each with --help):\n${Object.entries(dataCommands)
      .map(([name, what]) => `  ${name.padEnd(10)}${what}`)
      .join('\n')}`,
  )
  .exitOverride()
  .showHelpAfterError('(see --help)');

interface Common {
  json?: boolean;
  content?: string;
}

/** Every command can print JSON and take a further folder of content. */
function command(parent: Command, form: string, description: string): Command {
  return parent
    .command(form)
    .description(description)
    .option('--json', 'print one JSON document and nothing else')
    .option('--content <dir>', 'add a folder of YAML to the library');
}
const folders = (options: Common) => (options.content ? [shipped, options.content] : [shipped]);

/** Prints a command's result: as JSON, or in lines made for reading. */
function print<T>(options: Common, result: T, lines: (result: T) => string[]): void {
  process.stdout.write(options.json ? `${JSON.stringify(result)}\n` : `${lines(result).join('\n')}\n`);
}

const profiles = program.command('profiles').description('vehicle profiles');
command(profiles, 'list', 'list the profiles of the library').action((options: Common) =>
  print(options, profilesList(folders(options)), (rows) => rows.map((r) => `${r.id}  ${r.family}  ${r.title}`)),
);

const content = program.command('content').description('the library’s YAML');
command(content, 'check [dir]', 'check all content, or a folder together with the shipped content').action(
  (dir: string | undefined, options: Common) => {
    const result = contentCheck(dir === undefined ? folders(options) : [...folders(options), dir]);
    print(options, result, (r) => [...r.errors.map((e) => `${e.file}: ${e.path}: ${e.message}`), `${r.files} files, ${r.errors.length} errors`]);
    if (result.errors.length > 0) {
      const first = result.errors[0]!;
      throw new CannotUse(
        `${first.file}: ${first.path}: ${first.message}${result.errors.length > 1 ? ` (and ${result.errors.length - 1} more)` : ''}`,
      );
    }
  },
);

command(content, 'figures', 'what to check in each system type, as docs/content.md has it').action((options: Common) =>
  print(options, figuresOfContent(folders(options)), figuresAsMarkdown),
);

program
  .command('words')
  .description('every sentence of screens and content, with its file and place')
  .option('--json', 'print one JSON document and nothing else')
  .option('--old', 'only those with a word that must not come back')
  .option('--check', 'the same as --old, and the command fails when there is one')
  .action((options: Common & { old?: boolean; check?: boolean }) => {
    const found = words(join(shipped, '..'), options.old === true || options.check === true);
    print(options, found, (rows) => [
      ...rows.map((r) => `${r.file}:${r.place}: ${r.text}${r.old ? `  [${r.old.map((o) => `${o.word}: ${o.say}`).join('; ')}]` : ''}`),
      `${rows.length} sentences`,
    ]);
    if (options.check === true && found.length > 0) throw new Found();
  });

const schedule = program.command('schedule').description('several cars at once');
command(schedule, 'plan <file>', 'the order of touches that keeps every limit and has the last car ready soonest').action(
  (file: string, options: Common) =>
    print(options, schedulePlan(file), (plan) => [
      ...plan.touches.map(
        (t) =>
          `${t.at.toFixed(1).padStart(7)} min  ${t.case}, step ${t.step + 1}${t.limitAt === undefined ? '' : `, by ${t.limitAt.toFixed(1)} min`}${t.broken ? ', too late' : t.tight ? ', no slack' : ''}`,
      ),
      `last car ready after ${plan.makespanMinutes} min; not before ${plan.bound} min in any order${plan.proven ? '' : ' (not proven to be the best)'}`,
    ]),
);

command(program, 'identify', 'which system type a vehicle has')
  .requiredOption('--seen <answers>', 'question=value, separated by commas; cantSee is always an answer')
  .action((options: Common & { seen: string }) =>
    print(options, identifySeen(folders(options), options.seen), (r) => [
      ...r.families.slice(0, 4).map((f) => `${(f.p * 100).toFixed(1).padStart(5)} %  ${f.id}  ${f.title}`),
      r.state === 'sure' ? 'sure' : r.ask ? `check next (${r.ask.id}): ${r.ask.question} ${r.ask.why}` : 'nothing is left to check',
    ]),
  );

const diagnose = program.command('diagnose').description('what may be wrong, and what to do next');
command(diagnose, 'next', 'how likely each fault is, links, the next best tests and the advice')
  .requiredOption('--profile <id>', 'the vehicle whose system type and numbers count')
  .option('--evidence <file>', 'JSON: [{"test":"…","outcome":"…"}], in the order seen')
  .option('--changed <ids>', 'what changed lately or is told, separated by commas')
  .option('--have <tools>', 'the tools at hand, separated by commas; all if not given')
  .option('--limit <n>', 'number of tests to name', '3')
  .action((options: Common & NextOptions) =>
    print(options, diagnoseNext(folders(options), options), (r) => [
      r.advice.text,
      ...r.beliefs.slice(0, 5).map((b) => `${(b.p * 100).toFixed(1).padStart(5)} %  ${b.fault}${b.key === undefined ? '' : ` (tag ${b.key})`}`),
      ...r.next.map((n) => `next: ${n.test}${n.key === undefined ? '' : ` with tag ${n.key}`}. ${n.why}`),
    ]),
  );
command(diagnose, 'simulate', 'how a policy does on faults drawn as often as they occur')
  .requiredOption('--profile <id>', 'the vehicle whose system type and numbers count')
  .addOption(new Option('--policy <policy>', 'who decides').choices(policyNames).default('engine'))
  .option('--trials <n>', 'number of vehicles', '1000')
  .option('--seed <n>', 'seed of the draws', '1')
  .action((options: Common & SimulateOptions) =>
    print(options, diagnoseSimulate(folders(options), options), (r) => [
      `${r.trials} trials: ${r.solved} solved, ${r.wrong} wrong, ${r.unknown} unknown, ${r.failedRepairs} unsuccessful repairs`,
      `cost ${r.meanCost.toFixed(1)}, of it ${r.meanExtraCost.toFixed(1)} beyond the true repair; ${r.meanMinutes.toFixed(0)} min, ${r.meanTests.toFixed(1)} tests`,
    ]),
  );

const codes = program.command('codes').description('trouble codes');
command(codes, 'find <file>', 'the trouble codes in any text; - reads what comes in').action((file: string, options: Common) =>
  print(options, codesFind(file), (r) => [
    ...r.codes.map((c) =>
      [`line ${c.line}: ${c.code}`, c.failureType && `-${c.failureType}`, c.module && ` ${c.module}`, c.status && ` ${c.status}`]
        .filter(Boolean)
        .join(''),
    ),
    ...r.guesses.map((g) => `“${g.text}” may be ${g.code}`),
    `${r.codes.length} trouble codes, ${r.guesses.length} that could be one`,
  ]),
);
command(codes, 'explain <code...>', 'what trouble codes say, in which group they stand and which tests look at the same')
  .option('--profile <id>', 'the vehicle: its maker’s own trouble codes, its system type’s tests')
  .action((list: string[], options: Common & { profile?: string }) =>
    print(options, codesExplain(folders(options), list, options), (rows) =>
      rows.map(
        (r) =>
          `${r.code}${r.failureType ? `-${r.failureType}` : ''}  ${r.text.replace(/\.$/, '')}${r.failureText ? ` (${r.failureText})` : ''}. ${relevanceWords[r.relevance]}: ${r.why}`,
      ),
    ),
  );

const replacement = program.command('replacement').description('what a replaced part needs');
command(replacement, 'plan', 'what to do after parts were replaced, in order, and what can’t be restored')
  .requiredOption('--profile <id>', 'the vehicle whose system type counts')
  .requiredOption('--replaced <parts>', 'part=new, donor, remanufactured or repaired, separated by commas')
  .option('--have <things>', 'tools, keys as learned=2,main=1, what is there as engine.identity; everything if not given')
  .option('--by-hand', 'only what needs no scan tool')
  .action((options: Common & PlanOptions) =>
    print(options, replacementPlan(folders(options), options), (r) => [
      ...r.warnings.map((w) => `! ${w.text}`),
      ...r.plain.map((p) => p.text),
      ...r.cannot.flatMap((c) => [`Can’t be restored: ${c.text}. ${c.because.join(' ')}`, c.then]),
      ...r.steps.map((s, i) => `${String(i + 1).padStart(2)}. ${s.title} (${s.minutes} min). ${s.why}`),
      `${r.minutes} min, ${r.attendedMinutes} of them with a person at it`,
    ]),
  );
command(replacement, 'table', 'every system type, part and origin with its plan, as docs/replacement.md has it').action((options: Common) =>
  print(options, replacementTable(folders(options)), (lines) => lines),
);

const memory = program.command('memory').description('memory files with key slots');
const layoutOption = ['--layout <id>', 'where the slots stand: a layout of the library'] as const;
command(memory, 'read <file>', 'the slots of a memory file: .hex, .s19 and the like, anything else byte for byte')
  .requiredOption(...layoutOption)
  .action((file: string, options: Common & { layout: string }) =>
    print(options, memoryRead(folders(options), file, options.layout), (r) => [
      ...r.problems.map((p) => `! ${[p.path, p.message].filter(Boolean).join(': ')}`),
      ...r.slots.map((s) => [`slot ${s.slot}  ${s.state}`, ...Object.entries(s.fields).map(([id, text]) => `${id}=${text}`)].join('  ')),
      `${r.bytes} bytes, SHA-256 ${r.digest}`,
    ]),
  );
command(memory, 'diff <before> <after>', 'what changed between two memory files, in the slots and outside of them')
  .requiredOption(...layoutOption)
  .action((before: string, after: string, options: Common & { layout: string }) =>
    print(options, memoryDiff(folders(options), before, after, options.layout), (r) => [
      ...r.changes.map((c) => `slot ${c.slot}  ${c.field ?? 'no field'}: ${c.before} -> ${c.after}`),
      ...r.outsideSlots.map((o) => `${o.expected ? ' ' : '!'} ${o.title || 'no name'} at ${o.at}, ${o.bytes} bytes: ${o.before} -> ${o.after}`),
      `${r.changes.length} changes in slots, ${r.outsideSlots.length} outside`,
    ]),
  );

const lamp = program.command('lamp').description('security lights');
command(lamp, 'read <file>', 'read a recording of the light: CSV with seconds,level, or VCD with one wire; it begins with the moment')
  .requiredOption('--profile <id>', 'the vehicle whose system type and numbers count')
  .addOption(new Option('--moment <moment>', 'what the recording begins with').choices(lampMoments).default('ignition-on'))
  .action(async (file: string, options: Common & { profile: string; moment: LampMoment }) =>
    print(options, await lampRead(file, folders(options), options.profile, options.moment), (r) => [
      r.verdict,
      ...r.patterns.slice(0, 4).map((p) => `${p.p.toFixed(3)}  ${p.id}`),
    ]),
  );

const ladder = program.command('ladder').description('resistor keys and their value charts');
/** What the meter and its leads are like. */
const withMeter = (c: Command): Command =>
  c
    .option('--lead <ohms>', 'the tips held together, subtracted; 0 if not given')
    .option('--accuracy <accuracy>', 'percent of the reading plus digits, as the data sheet has it', '1%+5')
    .option('--resolution <ohms>', 'the last digit; as the readings are written if not given')
    .option('--temperature <celsius>', 'of the key; 20 if not given');
const ladderOption = ['--ladder <id or file>', 'a value chart of the library, or CSV: step,nominal,low,high'] as const;
withMeter(
  command(ladder, 'classify', 'which value a key has')
    .requiredOption(...ladderOption)
    .requiredOption('--readings <ohms>', 'separated by commas, or @FILE with one to a line; OL: overload'),
).action((options: Common & MeterOptions & { ladder: string; readings: string }) =>
  print(options, ladderClassify(folders(options), options), (r) => [
    r.text,
    r.mean === null ? 'no number' : `${r.mean} ohm, standard uncertainty ${r.u}`,
    ...r.steps.filter((s) => s.p >= 0.005).map((s) => `${s.p.toFixed(3)}  value ${s.step}`),
    ...r.others.filter((o) => o.p >= 0.005).map((o) => `${o.p.toFixed(3)}  ${o.verdict}`),
  ]),
);
withMeter(
  command(ladder, 'wiring', 'the same key alone and at the steering-column connector')
    .requiredOption(...ladderOption)
    .requiredOption('--key <ohms>', 'readings of the key alone')
    .requiredOption('--column <ohms>', 'readings at the steering-column connector, key inserted')
    .option('--contacts <ohms>', 'what good contacts and wires add at most'),
).action((options: Common & MeterOptions & { ladder: string; key: string; column: string; contacts?: string }) =>
  print(options, ladderWiring(folders(options), options), (r) => [`${r.verdict}: ${r.text}`]),
);
command(ladder, 'substitute', 'resistors that stand in for a value')
  .requiredOption('--target <ohms>', 'the value wanted')
  .option('--window <low,high>', 'what counts as the value, ohms')
  .requiredOption('--series <series>', 'E12, E24, E96, or CSV: ohms,tolerance_percent,count,watts')
  .option('--parts <n>', 'at most so many', '3')
  .option('--tolerance <percent>', 'of every part; 1 %, or what the drawer says, if not given')
  .option('--volts <volts>', 'the sense voltage: parts of a drawer that would get too hot are left out')
  .option('--limit <n>', 'number of combinations', '10')
  .action((options: Common & SubstituteOptions) =>
    print(options, ladderSubstitute(options), (r) =>
      r.combinations.map(
        (c) =>
          `${c.expression}  = ${c.nominal.toFixed(1)} (${c.worstLow.toFixed(1)} to ${c.worstHigh.toFixed(1)})${c.inside === false ? ', not inside' : ''}`,
      ),
    ),
  );
command(ladder, 'search', 'in which order to try the values when nobody knows the right one')
  .requiredOption(...ladderOption)
  .requiredOption('--lockout <seconds>', 'lockout after a wrong value')
  .requiredOption('--try <seconds>', 'one try')
  .option('--prior <file>', 'CSV: step,p')
  .action((options: Common & SearchOptions) =>
    print(options, ladderSearch(folders(options), options), (r) => [
      r.order.join(', '),
      `expected ${r.expectedSeconds.toFixed(0)} s, at worst ${r.worstSeconds.toFixed(0)} s`,
    ]),
  );

const trials = program.command('trials').description('repeat test, yes or no');
command(trials, 'assess', 'the rate with its exact limits, and how many more checks are needed')
  .requiredOption('--hits <n>', 'checks that showed it')
  .requiredOption('--trials <n>', 'all checks')
  .option('--confidence <share>', 'of the limits', '0.95')
  .option('--target <share>', 'the miss rate to rule out', '0.05')
  .action((options: Common & TrialsOptions) =>
    print(options, trialsAssess(options), (r) => [
      `rate ${r.rate === null ? 'unknown' : r.rate.toFixed(4)}, between ${r.low.toFixed(4)} and ${r.high.toFixed(4)}; misses up to ${r.missUpper.toFixed(4)}`,
      `${r.furtherCleanTrials} more without a miss reach the target`,
    ]),
  );

const copycheck = program.command('copycheck').description('two independent entries of a secret or number');
command(copycheck, 'compare <fileA> <fileB>', 'where two entries differ, and how')
  .option('--reveal', 'print the characters, not only their places')
  .option('--length <n>', 'how many characters it has')
  .addOption(new Option('--alphabet <alphabet>', 'what it is made of').choices(Object.keys(alphabets)).default('hex'))
  .action((a: string, b: string, options: Common & CopycheckOptions) =>
    print(options, copycheckCompare(a, b, options), (r) => [
      r.equal ? 'equal' : 'not equal',
      ...r.aProblems.map((p) => `first: ${p.path}${p.path ? ': ' : ''}${p.message}`),
      ...r.bProblems.map((p) => `second: ${p.path}${p.path ? ': ' : ''}${p.message}`),
      ...r.differences.map((d) => `${d.kind} at ${d.at}: ${d.a || 'nothing'}, ${d.b || 'nothing'}${d.confusable ? ` (${d.confusable} alike)` : ''}`),
    ]),
  );

const vin = program.command('vin').description('VINs');
command(vin, 'check <vin>', 'check length, characters and check digit').action((text: string, options: Common) =>
  print(options, vinCheck(text), (r) => [
    r.valid ? `${r.vin}: valid` : `${r.vin}: ${r.usable ? 'check digit wrong' : 'not usable'}`,
    ...r.problems,
    ...(r.years.length > 0 ? [`model year ${r.years.join(' or ')}`] : []),
  ]),
);

const reserve = program.command('reserve').description('the battery’s reserve');
command(reserve, 'predict <file>', 'how long a battery holds its load above a limit')
  .requiredOption('--minutes <m>', 'how long it must hold')
  .action((file: string, options: Common & ReserveOptions) =>
    print(options, reservePredict(file, options), (r) => {
      const { head, text } = reserveVerdict(r, Number(options.minutes));
      return [
        head,
        text,
        `now ${formatQuantity(r.startVolts, 'V')}, after ${options.minutes} min ${formatQuantity(r.endVolts, 'V')} (${formatQuantity(r.endVoltsLow, 'V')} to ${formatQuantity(r.endVoltsHigh, 'V')})`,
      ];
    }),
  );

const burst = program.command('burst').description('captures of a probe at the antenna coil');
command(burst, 'analyse <file>', 'how often, how long, how strong and at which frequency the antenna coil asks: CSV with seconds,volts, or WAV')
  .option('--channel <n>', 'of a WAV with two', '1')
  .action(async (file: string, options: Common & { channel: string }) =>
    print(options, await burstAnalyse(file, options.channel), (r) => [
      ...r.bursts.map(
        (b) => `${b.startMs.toFixed(3)} ms: ${b.durationMs.toFixed(3)} ms, ${b.amplitude.toPrecision(3)} V, ${(b.carrierHz / 1000).toFixed(2)} kHz`,
      ),
      `${r.count} bursts, ${[r.quality, ...r.limits].join(', ')}`,
    ]),
  );
command(burst, 'compare <file>', 'which baselines of the same vehicle a capture looks like; files named alike but for a number are one condition')
  .requiredOption('--baseline <file...>', 'captures whose condition is known: foil-1.csv foil-2.csv accepted-1.csv, or condition=FILE')
  .option('--channel <n>', 'of a WAV file with two channels', '1')
  .action(async (file: string, options: Common & { baseline: string[]; channel: string }) =>
    print(options, await burstCompare(file, options.baseline, options.channel), (r) => [
      ...r.matches.map((m) => `${formatChance(m.p)}  ${m.condition}`),
      r.verdict,
    ]),
  );

const procedure = program.command('procedure').description('procedures');
command(procedure, 'lint <file>', 'check one procedure')
  .option('--profile <id>', 'with this vehicle’s numbers')
  .action((file: string, options: Common & { profile?: string }) => {
    const result = procedureLint(file, folders(options), options.profile);
    print(options, result, (r) => [
      ...r.problems.map((p) => `${p.severity}: ${p.path}: ${p.message}`),
      `at least ${r.minMinutes} min, expected ${r.expectedMinutes} min`,
    ]);
  });
command(procedure, 'replay <file> <events>', 'run commands from a JSON file through a procedure')
  .option('--profile <id>', 'with this vehicle’s numbers')
  .option('--at <seconds>', 'look at this moment, seconds from the start')
  .action((file: string, events: string, options: Common & { profile?: string; at?: string }) => {
    print(options, procedureReplay(file, events, folders(options), options.profile, options.at), (r) => [
      `${r.state}${r.step ? ` at ${r.step}` : ''}`,
      r.verdict,
      ...r.refused.map((x) => `line ${x.line} refused: ${x.message}`),
    ]);
  });
command(procedure, 'draft <file>', 'a text of service information as steps, each sentence one').action((file: string, options: Common) =>
  print(options, procedureDraft(file), (draft) => [
    ...(draft.title === undefined ? [] : [draft.title]),
    ...draft.steps.map(draftLine),
    ...(draft.unsure.length > 0 ? [`check line ${draft.unsure.join(', ')}`] : []),
  ]),
);
command(procedure, 'table', 'what each procedure consists of, and how many ways lead through it').action((options: Common) =>
  print(options, procedureTable(folders(options)), tableAsMarkdown),
);

/**
 * Runs one command; what it prints goes to the standard streams of the process.
 * @param args as typed behind the program's name
 * @returns the exit status: 0, 1 for what can't be used or was found by a check, 2 for a wrong call
 */
export async function bloodstone(args: readonly string[]): Promise<number> {
  try {
    await program.parseAsync(args, { from: 'user' });
    return 0;
  } catch (error) {
    if (error instanceof Found) return 1;
    if (error instanceof CannotUse) {
      process.stderr.write(`${error.message.replaceAll('\n', ' ')}\n`);
      return 1;
    }
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    throw error;
  }
}
