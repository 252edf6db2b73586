import { Command, CommanderError, InvalidArgumentError, Option } from 'commander';
import { InputError, parseRate, framesPerSecond } from '@warper/core';
import type { BakeSpan } from '@warper/formats';
import { BAKE_FORMAT_IDS, parseSpan, writeSceneFile } from '@warper/formats';
import { bakeAlternates } from './bakeAlternates';
import type { BakeArguments } from './bakeCommand';
import { bakeToFiles, formatOf, isFolder } from './bakeCommand';
import type { ManyArguments, ManyReport } from './bakeMany';
import { bakeScenes } from './bakeMany';
import type { Limits } from './check';
import { check, describeCheck } from './check';
import { describeInspected, inspect } from './inspect';
import type { MatchArguments } from './match';
import { describeMatch, describeNext, match, matchNext } from './match';
import type { OpenOptions } from './open';
import { inputsOf, openScene, readMap } from './open';
import { requireOther, writeWhole } from './paths';
import { addServices } from './services';
import { watchScenes } from './watchScenes';

/** Exit codes: what happened. */
const EXIT = { done: 0, input: 1, usage: 2, threshold: 3 } as const;

/** What is written where; tests give their own. */
export interface Streams {
  readonly out: (text: string) => void;
  readonly err: (text: string) => void;
  readonly isTerminal: boolean;
  /** Ends what goes on until it is stopped; without it nothing but the end of the process does. */
  readonly signal?: AbortSignal;
}

const number = (text: string): number => {
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value)) throw new InvalidArgumentError('Expected a number.');
  return value;
};
/** A limit below zero would fail everything, and says that something was mistyped. */
const limit = (text: string): number => {
  const value = number(text);
  if (value < 0) throw new InvalidArgumentError('Expected a number from 0 on.');
  return value;
};
const count = (text: string): number => {
  const value = number(text);
  if (!Number.isSafeInteger(value) || value < 1)
    throw new InvalidArgumentError('Expected a whole number from 1 on.');
  return value;
};
const jobCount = (text: string): number => (text.trim() === '0' ? 0 : count(text));
/** Units a metre: from a kilometre to a micrometre. */
const units = (text: string): number => {
  const value = number(text);
  if (!(value >= 1e-3 && value <= 1e6))
    throw new InvalidArgumentError('Expected a number from 0.001 to 1000000.');
  return value;
};
const millimetres = (text: string): number => {
  const value = number(text);
  if (!(value >= 0.01 && value <= 100)) throw new InvalidArgumentError('Expected a number from 0.01 to 100.');
  return value;
};
/** Parts of a scene, one more with each: FROM-TO, and a name behind a space. */
const partOption = (text: string, before: readonly BakeSpan[] = []): readonly BakeSpan[] => {
  const span = parseSpan(text);
  if (!span) throw new InvalidArgumentError('Expected scene frames, such as 140-171 or "140-171 Walk".');
  return [...before, span];
};
/** The files that can be written, in words. */
const KNOWN = `a ${BAKE_FORMAT_IDS.map((id) => `.${id}`)
  .join(', ')
  .replace(/, (?=[^,]*$)/, ' or ')}`;
const rateOption = (text: string): number => {
  try {
    return framesPerSecond(parseRate(text));
  } catch {
    throw new InvalidArgumentError('Expected frames a second, such as 30 or 30000/1001.');
  }
};

/** Runs the command line and gives the exit code. */
export async function run(args: readonly string[], streams: Streams): Promise<number> {
  let code: number = EXIT.done;
  const json = args.includes('--json');
  const program = makeProgram(streams, (c) => (code = c));
  try {
    await program.parseAsync([...args], { from: 'user' });
    return code;
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? EXIT.done : EXIT.usage;
    if (error instanceof InputError) {
      report(error, json, streams);
      return EXIT.input;
    }
    throw error;
  }
}

function report(error: InputError, json: boolean, { out, err }: Streams): void {
  const { code, message, place, hint } = error;
  const { file, ...rest } = place;
  if (json) out(JSON.stringify({ error: { code, message, file: file ?? null, place: rest, hint } }) + '\n');
  const where = [file, ...Object.entries(rest).map(([k, v]) => (k === 'path' ? v : `${k} ${v}`))]
    .filter(Boolean)
    .join(', ');
  err(`${where ? `${where}: ` : ''}${message}${hint ? ` ${hint}` : ''}\n`);
}

const AUTO = 'choose the joins of a cue sheet that no cue sets itself';
/** What `--alternate` takes. */
const ALTERNATE = 'the alternate of a scene file with this name, in place of the one in hand';

function makeProgram(streams: Streams, exit: (code: number) => void): Command {
  const program = new Command('warper')
    .description('Joins library motion clips into continuous performances, from a shell or a script.')
    .exitOverride()
    .configureOutput({ writeOut: streams.out, writeErr: streams.err });
  const print = (value: object, json: boolean | undefined, text: string): void =>
    streams.out(json ? JSON.stringify(value) + '\n' : text + '\n');

  mapped(command(program, 'inspect <file>', 'Says what a motion file holds.')).action(
    async (file: string, o: { json?: boolean; map?: string }) => {
      const progress = shareShown(streams);
      const value = await inspect(file, await readMap(o.map), progress);
      progress(null);
      print(value, o.json, describeInspected(value));
    },
  );
  mapped(command(program, 'assemble <cues>', 'Lays out a scene from a cue sheet.'))
    .requiredOption('-o, --output <scene>', 'the scene file to write')
    .option('--auto', AUTO)
    .action(async (cues: string, o: { json?: boolean; output: string } & OpenOptions) => {
      const opened = await openScene(cues, o);
      await requireOther(o.output, inputsOf(opened, cues, o.map));
      await writeWhole(o.output, writeSceneFile(opened.scene, opened.library));
      const value = {
        file: o.output,
        characters: opened.plan.characters.map((c) => ({
          name: c.character.name,
          start: c.start,
          end: c.end,
          seams: c.segments
            .slice(1)
            .map((s, i) => ({ index: i, frame: s.start, chosen: s.settings.seam.chosen })),
        })),
      };
      print(value, o.json, `Wrote ${o.output}.`);
    });
  mapped(command(program, 'check <scene>', 'Measures every seam and step; fails where a limit is passed.'))
    .option('--auto', AUTO)
    .option('--alternate <name>', ALTERNATE)
    .option('--foot-lock', 'measure with the planted feet held')
    .option('--max-pop <cm>', 'largest pop of a seam', limit)
    .option('--max-slide <cm>', 'largest slide of a step', limit)
    .option('--max-turn <degrees>', 'largest turn of a seam', limit)
    .option('--max-hitch <x>', 'largest hitch of a seam, in times its sources', limit)
    .action(async (scene: string, o: { json?: boolean } & Limits & OpenOptions) => {
      const { report: value, passed } = check(await openScene(scene, o), o);
      print(value, o.json, describeCheck(value));
      for (const line of passed) streams.err(line + '\n');
      if (passed.length > 0) exit(EXIT.threshold);
    });
  addBake(program, streams, exit, print);
  mapped(command(program, 'match <a> [b]', 'Finds where one motion can go over into another.'))
    .option('--next <places...>', 'ranks the clips of files or folders by how well they follow the end of A')
    .option('--within <frames>', 'only so many frames from the end of A and the start of B', count)
    .option('--top <n>', 'how many pairs', count)
    .action(async (a: string, b: string | undefined, o: MatchCommand) => {
      if ((b === undefined) === (o.next === undefined)) {
        program.error(b === undefined ? 'Give B, or --next.' : 'Give B or --next, not both.', {
          exitCode: EXIT.usage,
        });
      }
      if (b === undefined) {
        const value = await matchNext(a, o.next ?? [], o.top ?? NEXT_SHOWN, await readMap(o.map));
        return print(value, o.json, describeNext(value.next));
      }
      const value = await match(a, b, o, await readMap(o.map));
      print(value, o.json, describeMatch(value.pairs));
    });
  addServices((usage, description) => command(program, usage, description));
  return program;
}

/** Clips that `match --next` gives unless asked for more. */
const NEXT_SHOWN = 10;

/** Options of `match`. */
type MatchCommand = MatchArguments & {
  readonly json?: boolean;
  readonly map?: string;
  readonly next?: readonly string[];
};

/** Shows people the finished share of long work in one line, which goes with null; a script sees none of it. */
const shareShown =
  ({ isTerminal, err }: Streams) =>
  (share: number | null): void => {
    if (isTerminal) err(share === null ? '\r      \r' : `\r${Math.round(share * 100)} %`);
  };

function addBake(
  program: Command,
  streams: Streams,
  exit: (code: number) => void,
  print: (value: object, json: boolean | undefined, text: string) => void,
): void {
  mapped(
    command(
      program,
      'bake <scenes...>',
      'Writes what characters perform: all in one file, or one each; several scenes into a folder.',
    ),
  )
    .option(
      '--character <name>',
      'whose performance; may be given again, and is all of them by default',
      (name: string, before: readonly string[] = []) => [...before, name],
    )
    .requiredOption('-o, --output <file>', 'the file to write, or a folder for one each', (text) => {
      if (!isFolder(text) && formatOf(text) === null)
        throw new InvalidArgumentError(`Expected ${KNOWN} file, or a folder with a / behind it.`);
      return text;
    })
    .addOption(new Option('--format <format>', 'what the files of a folder are').choices(BAKE_FORMAT_IDS))
    .option('--from <frame>', 'first scene frame', number)
    .option('--to <frame>', 'the scene frame after the last', number)
    .option(
      '--part <frames>',
      'scene frames FROM-TO and a name; may be given again, each a file of a folder or an animation',
      partOption,
    )
    .option('--regions', 'the regions of the scene as parts, or what lies between its markers')
    .option('--rate <rate>', 'samples a second', rateOption)
    .addOption(
      new Option('--travel <travel>', 'what is done with the root').choices(['recorded', 'in-place']),
    )
    .option('--in-place', 'the same as --travel in-place')
    .option('--keep-facing', 'in place, the facing held as well')
    .option('--from-origin', 'begin at the origin, facing +Z')
    .option('--lead-in <frames>', 'scene frames before the first, out of the rest pose', count)
    .addOption(
      new Option('--loop <end>', 'for a loop: leave out a doubled last frame, or close the gap').choices([
        'as-it-is',
        'drop-doubled',
        'close',
      ]),
    )
    .addOption(new Option('--keys <keys>', 'which keys are written').choices(['every', 'reduced']))
    .option('--error <mm>', 'how far a joint may come off with reduced keys, 1 by default', millimetres)
    .addOption(
      new Option('--interpolation <kind>', 'what is between reduced keys').choices(['linear', 'cubic']),
    )
    .addOption(new Option('--names <names>', 'what joints are called').choices(['own', 'roles']))
    .option('--scale <units>', 'units a metre in the file', units)
    .addOption(new Option('--up <axis>', 'the axis that points up in the file').choices(['y', 'z']))
    .option('--no-body', 'bones only')
    .option('--no-cameras', "without the scene's cameras")
    .option('--otio <file>', 'the arrangement to write as OpenTimelineIO')
    .option('--report <file>', 'the continuity report to write, .html or .json', (text) => {
      if (!/\.(html|json)$/i.test(text)) throw new InvalidArgumentError('Expected a .html or .json file.');
      return text;
    })
    .option('--auto', AUTO)
    .option('--foot-lock', 'hold the planted feet where they stand')
    .option('--alternate <name>', ALTERNATE)
    .option('--alternates', 'every alternate of one scene, into a folder')
    .option('--watch', 'bake again whenever anything in the folders of the scenes changes')
    .option('--jobs <n>', 'scenes that are baked at a time; 0 for one a core', jobCount)
    .option(
      '--resume',
      'keep files that the manifest of the folder knows, where they are as they would be made',
    )
    .action(async (scenes: string[], o: ManyArguments & ManySwitches) => {
      const progress = shareShown(streams);
      if (
        o.alternates === true &&
        (scenes.length > 1 || o.watch === true || o.resume === true || o.alternate)
      )
        program.error('--alternates is for one scene, without --watch, --resume and --alternate.', {
          exitCode: EXIT.usage,
        });
      if (o.watch === true) {
        requireFolder(program, o);
        const told = (value: ManyReport): void => {
          print(value, o.json, describeMany(value));
          tellErrors(value, streams);
        };
        return watchScenes(scenes, o, told, streams.signal ?? new AbortController().signal);
      }
      const [scene] = scenes;
      if (scenes.length > 1 || o.resume === true || scene === undefined) {
        requireFolder(program, o);
        const value = await bakeScenes(scenes, o, progress);
        progress(null);
        print(value, o.json, describeMany(value));
        tellErrors(value, streams);
        if (value.errors.length > 0) exit(EXIT.input);
        return;
      }
      const opened = await openScene(scene, o);
      const inputs = inputsOf(opened, scene, o.map);
      if (o.alternates === true) {
        requireFolder(program, o);
        const value = await bakeAlternates(opened, o, progress, (file) => requireOther(file, inputs));
        progress(null);
        print(value, o.json, `Wrote ${value.alternates.length} alternates into ${o.output}.`);
        return;
      }
      const value = await bakeToFiles(opened, o, progress, (file) => requireOther(file, inputs));
      progress(null);
      print(value, o.json, `Wrote ${o.output}.`);
    });
}

/** Options of `bake` that are for this command alone. */
interface ManySwitches {
  readonly json?: boolean;
  readonly resume?: boolean;
  readonly watch?: boolean;
  readonly alternates?: boolean;
}

function tellErrors({ errors }: ManyReport, { err }: Streams): void {
  for (const { scene, message, hint } of errors) err(`${scene}: ${message} ${hint}\n`);
}

/** Several scenes, and what is resumed or watched, go into a folder, and have no report or timeline of their own. */
function requireFolder(program: Command, { output, report, otio }: BakeArguments): void {
  if (!isFolder(output))
    program.error('Several scenes go into a folder: -o bakes/', { exitCode: EXIT.usage });
  if (report !== undefined || otio !== undefined)
    program.error('A report and a timeline are of one scene.', { exitCode: EXIT.usage });
}

const describeMany = ({ files, manifest }: ManyReport): string => {
  const kept = files.filter((f) => f.kept).length;
  const made = files.length - kept;
  if (files.length === 0) return 'Wrote nothing.';
  return `Wrote ${made} ${made === 1 ? 'file' : 'files'}${kept > 0 ? `, kept ${kept} as they were` : ''}; ${manifest} lists them.`;
};

function command(program: Command, usage: string, description: string): Command {
  return program.command(usage).description(description).option('--json', 'print one JSON document');
}

/** A command that reads motion files may be told what their joints are. */
const mapped = (made: Command): Command =>
  made.option('--map <file>', 'roles of joints by name, as JSON (docs/cue-sheet.md)');
