import { createInterface } from 'node:readline';
import type { Readable } from 'node:stream';
import {
  advance,
  begin,
  nameOfState,
  printLine,
  resolveScreen,
  scopeFor,
  valueOfVariable,
  type Program,
  type Report,
  type RunEvent,
  type RunState,
} from '@zany/core';
import { load, Unreadable } from './files.ts';

/** Runs events, a JSON object a line, and prints the settled state after each, a JSON object a line. */
export async function run(file: string, events: Readable, print: (text: string) => void): Promise<number> {
  const { program } = await load(file);
  const begun = begin(program);
  if (!begun) throw new Unreadable(`${file}: the piece has no frame, so there is nothing to run.`);
  let state = begun.run;
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

/** The settled state as people and programs can read it: where it is, what is different, what fired and why not. */
const settled = (program: Program, state: RunState, event: RunEvent, reports: readonly Report[]) => ({
  event,
  frame: state.frame,
  name: program.scenes.get(state.frame)?.scene.name,
  back: state.back,
  clock: state.clock,
  ...(state.overlays.length && { over: state.overlays.map((overlay) => program.scenes.get(overlay.frame)?.scene.name) }),
  ...(program.variables.size && { variables: variablesOf(program, state) }),
  ...statesOf(program, state),
  fired: reports.flatMap((report) =>
    report.fired.map(({ thread, branch }) => ({ thread, ...(branch > 0 && { branch: branch + 1 }), line: lineOf(program, thread) }))
  ),
  whyNot: reports.flatMap((report) => report.whyNot.map(({ code, sentence, clause }) => ({ code, sentence, ...(clause && { clause }) }))),
  opened: reports.flatMap((report) => report.effects.flatMap((effect) => (effect.type === 'open' ? [effect.address] : []))),
  ...signalsOf(reports),
});

const variablesOf = (program: Program, state: RunState) =>
  Object.fromEntries(
    [...program.variables.values()].filter((one) => one.scene === null).map((one) => [one.name, valueOfVariable(program, state, one.id, one.id)])
  );

/** The states of everything on the screen that has some, by name. */
function statesOf(program: Program, state: RunState) {
  const found = resolveScreen(program, state).surfaces.flatMap((surface) => {
    const root = state.roots[surface.scene]!;
    return [...surface.expansion.instances.values()]
      .filter((instance) => instance.scene.states.length > 0)
      .map((instance) => [instance.placement?.layer.name ?? instance.scene.scene.name, nameOfState(root, instance)] as const);
  });
  return found.length ? { states: Object.fromEntries(found) } : {};
}

function signalsOf(reports: readonly Report[]) {
  const sent = reports.flatMap((report) => report.effects.flatMap((effect) => (effect.type === 'signal' ? [effect.signal] : [])));
  return sent.length ? { sent } : {};
}

const lineOf = (program: Program, id: string) => {
  const thread = program.piece.threads.get(id);
  return thread && printLine(thread, scopeFor(program.piece, thread));
};

type FieldKind = 'number' | 'string' | 'layer' | 'frame' | 'value' | 'variable';

const fields: Record<RunEvent['type'], Record<string, FieldKind>> = {
  move: { x: 'number', y: 'number' },
  press: { x: 'number', y: 'number' },
  release: { x: 'number', y: 'number' },
  leave: {},
  click: { layer: 'layer' },
  hold: { layer: 'layer' },
  'let-go': { where: 'string' },
  'double-click': { layer: 'layer' },
  'long-press': { layer: 'layer' },
  beside: {},
  hover: { layer: 'layer' },
  drag: { layer: 'layer', dx: 'number', dy: 'number' },
  swipe: { layer: 'layer', direction: 'string' },
  scroll: { layer: 'layer', x: 'number', y: 'number' },
  key: { key: 'string' },
  focus: { layer: 'layer' },
  value: { layer: 'layer', value: 'value' },
  media: { layer: 'layer', what: 'string' },
  pad: { button: 'number' },
  signal: { signal: 'string' },
  set: { variable: 'variable', value: 'value' },
  wait: { ms: 'number' },
  jump: { frame: 'frame' },
};

/** Events that can be about the frame itself. */
const ofFrame: ReadonlySet<string> = new Set(['click', 'hold', 'double-click', 'long-press', 'swipe', 'scroll', 'focus']);

const choices: Partial<Record<string, readonly string[]>> = {
  direction: ['left', 'right', 'up', 'down'],
  what: ['started', 'ended'],
  where: ['there', 'elsewhere'],
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
    if (kind === 'layer' && value === null && ofFrame.has(String(json['type']))) event[field] = null;
    else if (kind === 'value') {
      if (!['string', 'number', 'boolean'].includes(typeof value)) return refuse(`“${field}” must be a text, a number, or true or false.`);
      event[field] = value;
    } else if (typeof value !== (kind === 'number' ? 'number' : 'string'))
      return refuse(`“${field}” must be a ${kind === 'number' ? 'number' : 'text'}.`);
    else if (choices[field] && !choices[field].includes(value as string)) return refuse(`“${field}” must be one of ${choices[field].join(', ')}.`);
    else event[field] = named(program, state, kind, value);
  }
  if (event['layer'] === null && typeof json['scene'] === 'string') event['scene'] = named(program, state, 'frame', json['scene']);
  if (json['type'] === 'wait' && !((event['ms'] as number) >= 0)) return refuse('“ms” must not be negative.');
  return event as RunEvent;
}

/** What a word names: layers of the screen, frames and variables may be given by id or by name. */
function named(program: Program, state: RunState, kind: FieldKind, value: unknown): unknown {
  const word = value as string;
  if (kind === 'layer') return layerOf(program, state, word);
  if (kind === 'frame') return program.scenes.has(word) ? word : (program.frames.find((id) => program.scenes.get(id)!.scene.name === word) ?? word);
  if (kind === 'variable') return program.variables.has(word) ? word : ([...program.variables.values()].find((one) => one.name === word)?.id ?? word);
  return value;
}

function layerOf(program: Program, state: RunState, word: string): string {
  const nodes = Object.keys(state.roots).flatMap(
    (scene) => resolveScreen(program, state).surfaces.find((one) => one.scene === scene)?.expansion.nodes ?? []
  );
  return (nodes.find((node) => node.key === word) ?? nodes.find((node) => node.layer.name === word))?.key ?? word;
}
