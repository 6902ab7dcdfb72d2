import { createReadStream } from 'node:fs';
import { exportKinds, imports, listWords, VERSION, type ExportKind } from '@zany/core';
import { drawForms, type DrawWish } from '@zany/player/pictures';
import { Command, CommanderError, InvalidArgumentError, Option } from 'commander';
import { bringIn } from './bring-in.ts';
import { check, checkFormats, checkOnAndOn, type Format } from './check.ts';
import { compareFiles } from './compare.ts';
import { drawFile } from './draw.ts';
import { exploreFile } from './explore.ts';
import { exportFile } from './export.ts';
import { Unreadable } from './files.ts';
import { run } from './run.ts';
import { walkFile, walkFormats } from './walk.ts';

const print = (text: string) => void process.stdout.write(`${text}\n`);

const positive = (text: string): number => {
  const value = Number(text);
  if (!Number.isInteger(value) || value < 1) throw new InvalidArgumentError('It must be a whole number from 1 on.');
  return value;
};

const maxStates = () => new Option('--max-states <n>', 'stop after this many states').argParser(positive);

/** The exit code of a call: 0 done, 1 something must be fixed, 2 the input cannot be used, 3 not all was walked. */
async function main(argv: string[]): Promise<number> {
  let code = 0;
  const program = new Command('zany').description('Zany Thread on files: a piece.json or a package.').version(VERSION).exitOverride();
  program
    .command('check <file>')
    .description('list the loose ends; exit code 1 if something must be fixed, 3 if nothing must but not all was walked')
    .addOption(new Option('--format <format>', 'how to print them').choices(checkFormats).default('text'))
    .addOption(maxStates())
    .option('--watch', 'check again whenever the file is written')
    .action(async (file: string, options: { format: Format; maxStates?: number; watch?: true }) => {
      code = await (options.watch ? checkOnAndOn : check)(file, options, print, VERSION);
    });
  program
    .command('walk <file>')
    .description('walk what is kept with the piece, and plan few and short routes over all of it; exit code 1 if a kept walk no longer holds')
    .addOption(new Option('--format <format>', 'how to print it').choices(walkFormats).default('text'))
    .addOption(maxStates())
    .action(
      async (file: string, options: { format: (typeof walkFormats)[number]; maxStates?: number }) =>
        void (code = await walkFile(file, options.format, options.maxStates, print))
    );
  program
    .command('compare <before> <after>')
    .description('say what is written otherwise in two versions of a piece, and what they do otherwise')
    .addOption(new Option('--format <format>', 'how to print it').choices(['text', 'json']).default('text'))
    .addOption(maxStates())
    .action(
      async (before: string, after: string, options: { format: 'text' | 'json'; maxStates?: number }) =>
        void (code = await compareFiles(before, after, options.format, options.maxStates, print))
    );
  program
    .command('explore <file>')
    .description('walk every reachable state and say what was reached')
    .addOption(new Option('--format <format>', 'how to print it').choices(['text', 'json']).default('text'))
    .addOption(maxStates())
    .action(
      async (file: string, options: { format: 'text' | 'json'; maxStates?: number }) =>
        void (code = await exploreFile(file, options.format, options.maxStates, print))
    );
  program
    .command('run <file>')
    .description('run events (JSON Lines) and print the settled state after each')
    .requiredOption('--events <file>', 'a file, or - for standard input')
    .action(
      async (file: string, { events }: { events: string }) =>
        void (code = await run(file, events === '-' ? process.stdin : createReadStream(events), print))
    );
  program
    .command('export <file>')
    .description('write the piece in another form')
    .addOption(new Option('--to <form>', 'the form').choices(Object.keys(exportKinds)).makeOptionMandatory())
    .requiredOption('--out <path>', 'where to write it')
    .addOption(new Option('--most <kB>', 'exit code 1 if it is heavier than so many kilobytes').argParser(positive))
    .action(
      async (file: string, { to, out, most }: { to: ExportKind; out: string; most?: number }) =>
        void (code = await exportFile(file, to, out, most, print))
    );
  program
    .command('draw <file>')
    .description('picture frames, a timeline or a kept walk, painted without a browser')
    .addOption(new Option('--as <form>', 'the form').choices(drawForms).makeOptionMandatory())
    .requiredOption('--out <path>', 'where to write it: a zip of pictures, one document, or a film')
    .option('--only <names...>', 'frames, parts and bundles of these names, instead of all frames')
    .option('--states', 'each in each of its states')
    .option('--timeline <name>', 'the timeline of what has this name')
    .option('--walk <name>', 'the kept walk of this name')
    .addOption(new Option('--from <n>', 'the first frame of the timeline').argParser(positive))
    .addOption(new Option('--to <n>', 'the last frame of the timeline').argParser(positive))
    .addOption(new Option('--every <n>', 'each so many frames of the timeline').argParser(positive).default(1))
    .addOption(new Option('--scale <n>', 'pixels for one CSS pixel').argParser(positive).default(1))
    .action(async (file: string, { out, ...wish }: DrawWish & { out: string }) => void (code = await drawFile(file, out, wish, print)));
  program
    .command('bring-in <piece> <files...>')
    .description(`bring ${listWords([...imports.map(({ label }) => label), 'pictures of pages'], 'or')} into a piece`)
    .requiredOption('--out <path>', 'where to write the package')
    .option('--fit', 'make each page a frame of the size that the piece has, with its picture inside')
    .action(
      async (piece: string, files: string[], { out, fit = false }: { out: string; fit?: boolean }) =>
        void (code = await bringIn(piece, files, fit, out, print))
    );
  await program.parseAsync(argv);
  return code;
}

// Whoever reads what is printed may stop early, as `head` does.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code !== 'EPIPE') throw error;
  process.exit();
});

try {
  process.exitCode = await main(process.argv);
} catch (error) {
  if (error instanceof CommanderError) process.exitCode = error.exitCode === 0 ? 0 : 2;
  else if (error instanceof Unreadable || (error as NodeJS.ErrnoException).code === 'ENOENT') {
    process.stderr.write(`zany: ${(error as Error).message}\n`);
    process.exitCode = 2;
  } else throw error;
}
