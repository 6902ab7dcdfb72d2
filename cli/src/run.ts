import { createInterface } from 'node:readline';
import type { Readable } from 'node:stream';
import { advance, printLine, scopeOf, start, type Program, type Report, type RunEvent, type RunState } from '@zany/core';
import { load, Unreadable } from './files.ts';

/** Runs events, a JSON object a line, and prints the settled state after each, a JSON object a line. */
export async function run(file: string, events: Readable, print: (text: string) => void): Promise<number> {
  const { program } = await load(file);
  let state = start(program);
  if (!state) throw new Unreadable(`${file}: the piece has no frame, so there is nothing to run.`);
  let number = 0;
  for await (const line of createInterface({ input: events })) {
    number++;
    if (line.trim() === '') continue;
    const event = readEvent(program, state, line, number);
    const next: { run: RunState; reports: readonly Report[] } = advance(program, state, event);
    state = next.run;
    print(JSON.stringify(settled(program, state, event, next.reports)));
  }
  return 0;
}

const settled = (program: Program, state: RunState, event: RunEvent, reports: readonly Report[]) => ({
  event,
  frame: state.frame,
  name: program.scenes.get(state.frame)?.scene.name,
  back: state.back,
  clock: state.clock,
  fired: reports.flatMap((report) => report.fired.map(({ thread }) => ({ thread, line: lineOf(program, thread) }))),
  whyNot: reports.flatMap((report) => report.whyNot.map(({ code, sentence }) => ({ code, sentence }))),
  opened: reports.flatMap((report) => report.effects.flatMap((effect) => (effect.type === 'open' ? [effect.address] : []))),
});

const lineOf = (program: Program, id: string) => {
  const thread = program.piece.threads.get(id);
  return thread && printLine(thread, scopeOf(program.piece));
};

const fields: Record<RunEvent['type'], Record<string, 'number' | 'string' | 'layer' | 'frame'>> = {
  move: { x: 'number', y: 'number' },
  press: { x: 'number', y: 'number' },
  release: { x: 'number', y: 'number' },
  leave: {},
  click: { layer: 'layer' },
  hover: { layer: 'layer' },
  key: { key: 'string' },
  wait: { ms: 'number' },
  jump: { frame: 'frame' },
};

/** Layers and frames may be given by id or by name; a click with `"layer": null` is on the frame itself. */
function readEvent(program: Program, state: RunState, line: string, number: number): RunEvent {
  const refuse = (why: string): never => {
    throw new Unreadable(`line ${number}: ${why}`);
  };
  let json: Record<string, unknown>;
  try {
    json = JSON.parse(line) as Record<string, unknown>;
  } catch {
    return refuse('this is no JSON object.');
  }
  const wanted = fields[json?.['type'] as RunEvent['type']];
  if (!wanted) return refuse(`“type” must be one of ${Object.keys(fields).join(', ')}.`);
  const event: Record<string, unknown> = { type: json['type'] };
  for (const [field, kind] of Object.entries(wanted)) {
    const value = json[field];
    if (kind === 'layer' && value === null && json['type'] === 'click') event[field] = null;
    else if (typeof value !== (kind === 'number' ? 'number' : 'string'))
      return refuse(`“${field}” must be a ${kind === 'number' ? 'number' : 'text'}.`);
    else event[field] = kind === 'layer' ? layerOf(program, state, value as string) : kind === 'frame' ? frameOf(program, value as string) : value;
  }
  if (json['type'] === 'wait' && !((event['ms'] as number) >= 0)) return refuse('“ms” must not be negative.');
  return event as RunEvent;
}

const layerOf = (program: Program, state: RunState, word: string): string =>
  program.piece.layers.has(word) ? word : (program.scenes.get(state.frame)?.items.find((item) => item.layer.name === word)?.layer.id ?? word);

const frameOf = (program: Program, word: string): string =>
  program.scenes.has(word) ? word : (program.frames.find((id) => program.scenes.get(id)!.scene.name === word) ?? word);
