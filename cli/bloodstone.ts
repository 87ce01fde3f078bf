import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Command, CommanderError } from 'commander';
import { contentCheck } from './contentCheck';
import { CannotUse } from './fail';
import { procedureLint, procedureReplay } from './procedure';
import { profilesList } from './profiles';

/** The folder of shipped content, beside this one. */
const shipped = join(fileURLToPath(import.meta.url), '../../content');

const program = new Command('bloodstone').description('The core at a command line').exitOverride().showHelpAfterError('(see --help)');

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

try {
  await program.parseAsync();
} catch (error) {
  if (error instanceof CannotUse) {
    process.stderr.write(`${error.message.replaceAll('\n', ' ')}\n`);
    process.exitCode = 1;
  } else if (error instanceof CommanderError) process.exitCode = error.exitCode === 0 ? 0 : 2;
  else throw error;
}
