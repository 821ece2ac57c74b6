import { Argument, Command, CommanderError, InvalidArgumentError, Option } from 'commander';
import { SCRIPTS } from '@lantern/capture/names';
import { CAST_NAMES } from '@lantern/cast/names';
import { InputError, SLOT_LISTS } from '@lantern/motion/names';

/** Exit codes of every command: done, our fault, wrong use, bad input. */
const EXIT = { done: 0, ours: 1, use: 2, input: 3 } as const;

const number = (least: number, most: number) => (text: string) => {
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value) || value < least || value > most)
    throw new InvalidArgumentError(`Expected a number from ${least} to ${most}.`);
  return value;
};
const whole = (least: number, most: number) => (text: string) => {
  const value = number(least, most)(text);
  if (!Number.isInteger(value)) throw new InvalidArgumentError('Expected a whole number.');
  return value;
};
const faults = (text: string) => (text === 'none' ? 0 : text === 'default' ? 1 : number(0, 10)(text));

/** A command whose code is read only when it is asked for. */
const only =
  <Asked extends readonly unknown[]>(load: () => Promise<(...asked: Asked) => unknown>) =>
  async (...asked: Asked): Promise<void> => {
    const run = await load();
    await run(...asked);
  };

function program(): Command {
  const lantern = new Command('lantern').description('From captured motion to engine-ready locomotion sets.').exitOverride();
  const command = (name: string, description: string) =>
    lantern.command(name).description(description).option('--json', 'one JSON document on standard output').exitOverride();

  command('inspect', 'what a file holds')
    .argument('<files...>')
    .action(only(async () => (await import('./inspect')).inspect));
  command('contacts', 'its foot contacts')
    .argument('<file>')
    .action(only(async () => (await import('./contacts')).contacts));
  command('loops', 'loop candidates, best first')
    .argument('<file>')
    .action(only(async () => (await import('./loops')).loops));
  command('joins', 'the best instants at which one motion can follow another')
    .argument('<a>', 'a take, or a clip as project.json#name')
    .argument('<b>', 'what follows it')
    .option('--frames <n>', 'length of the overlap', whole(0, 600), 18)
    .action(only(async () => (await import('./joins')).joins));
  command('make', 'everything a project file describes')
    .argument('<project>')
    .requiredOption('--out <dir>', 'the folder to write to')
    .option('--allow-outside', 'files of the project may lie outside of its folder')
    .action(
      only(async () => {
        const { make } = await import('./make');
        return async (project: string, options: Parameters<typeof make>[1]) => {
          if (!(await make(project, options))) process.exitCode = EXIT.input;
        };
      }),
    );
  command('capture-day', 'a whole capture day in the simulated suit')
    .requiredOption('--out <dir>', 'the folder to write its takes to')
    .option('--seed <n>', 'the same seed makes the same day', whole(0, 4294967295), 1)
    .option('--fps <n>', 'frames a second', number(10, 480), 60)
    .addOption(new Option('--faults <factor>', 'none, default or a factor').argParser(faults).default(1, 'default'))
    .option('--solve <n>', 'the same performance solved anew: other noise, takes that begin a little later', whole(0, 4294967295))
    .action(only(async () => (await import('./capture-day')).captureDay));
  command('propose', 'a set drafted from all takes of a folder')
    .argument('<folder>')
    .option('--character <name>', 'whom it is for: wick, tallow, or a skinned GLB; nobody unless named')
    .addOption(new Option('--slots <list>', 'what the set shall have').choices(SLOT_LISTS).default('full'))
    .option('--name <name>', 'what the set is called', 'lamplighter')
    .requiredOption('--out <file>', 'the project file to write')
    .action(only(async () => (await import('./propose')).propose));
  command('watch', 'brings in what appears in a folder, and ships again what that changes')
    .argument('<folder>')
    .requiredOption('--project <file>', 'the project file, which is kept up to date')
    .requiredOption('--out <dir>', 'the folder to ship to')
    .option('--once', 'look once, and end')
    .option('--allow-outside', 'files of the project may lie outside of its folder')
    .action(only(async () => (await import('./watch')).watch));
  command('set', 'coverage, ends and contract of a set')
    .argument('<project>')
    .option('--set <name>', 'which of its sets; the first unless named')
    .addOption(new Option('--slots <list>', 'a ready list, where the project has no set').choices(SLOT_LISTS).default('modest'))
    .option('--allow-outside', 'files of the project may lie outside of its folder')
    .action(only(async () => (await import('./set')).set));
  command('field', 'soundings of a blend field')
    .argument('<project>')
    .argument('<name>')
    .option('--grid <n>', 'soundings along either side of the chart', whole(2, 60), 15)
    .option('--allow-outside', 'files of the project may lie outside of its folder')
    .action(only(async () => (await import('./field')).field));
  command('drive', 'rough weather: a set played unattended')
    .argument('<project>')
    .option('--set <name>', 'which of its sets; the first unless named')
    .option('--minutes <n>', 'of play, beside every transition from every phase', number(0.1, 600), 10)
    .option('--seed <n>', 'the same seed finds the same', whole(0, 4294967), 1)
    .option('--allow-outside', 'files of the project may lie outside of its folder')
    .action(only(async () => (await import('./drive')).drive));
  command('measure', 'the figures of a finished .glb or .bvh')
    .argument('<file>')
    .action(only(async () => (await import('./measure')).measure));
  command('fit', 'a take onto a character')
    .argument('<take>')
    .argument('<character>', 'a skinned GLB, or wick or tallow')
    .requiredOption('--out <file>', 'the GLB file to write')
    .action(only(async () => (await import('./fit')).fit));
  command('character', 'one of the characters that come with the program, as a skinned GLB')
    .addArgument(new Argument('<name>').choices(CAST_NAMES))
    .requiredOption('--out <file>', 'the GLB file to write')
    .action(only(async () => (await import('./fit')).character));
  command('capture', 'play a script in the simulated suit')
    .addArgument(new Argument('<script>').choices(SCRIPTS))
    .requiredOption('--out <file>', 'the BVH file to write')
    .option('--seconds <s>', 'how long', number(0.5, 1800), 20)
    .option('--speed <m/s>', 'metres a second, of the scripts that go at one speed', number(0.2, 6))
    .option('--uneven <share>', 'how much one stride differs from another; 1 as those of people do', number(0, 3), 1)
    .option('--tired <share>', 'how tired the performer is, 0 to 1', number(0, 1), 0)
    .option('--brisk <share>', 'how brisk, 0 to 1', number(0, 1), 0)
    .option('--wary <share>', 'how wary, 0 to 1', number(0, 1), 0)
    .option('--gloves', 'record the fingers too, three joints each')
    .option('--fps <n>', 'frames a second', number(10, 480), 60)
    .option('--seed <n>', 'the same seed makes the same take', whole(0, 4294967295), 1)
    .addOption(new Option('--faults <factor>', 'none, default or a factor').argParser(faults).default(1, 'default'))
    .option('--truth <file>', 'write what is known of the take as JSON')
    .action(only(async () => (await import('./capture')).capture));
  return lantern;
}

try {
  await program().parseAsync();
} catch (error) {
  if (error instanceof CommanderError) {
    process.exitCode = error.exitCode === 0 ? EXIT.done : EXIT.use;
  } else if (error instanceof InputError) {
    process.stderr.write(`${error.place.file ?? ''}:${error.place.line ?? 1}: ${error.message.replace(/\s+/g, ' ')}\n`);
    process.exitCode = EXIT.input;
  } else {
    process.stderr.write(`lantern: this is our fault: ${error instanceof Error ? error.message : String(error)}\n`);
    process.exitCode = EXIT.ours;
  }
}
