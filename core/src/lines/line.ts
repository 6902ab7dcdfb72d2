import { cueKind, cueKinds, type OwnerKind } from '../cues/kinds.ts';
import type { Cue, CueType } from '../cues/schemas.ts';
import { fail, ok, type Result } from '../result.ts';
import { readTarget, stepKind, stepKinds } from '../steps/kinds.ts';
import type { Step, StepType } from '../steps/schemas.ts';
import { readTransition } from '../transitions/kinds.ts';
import { LineError, LineReader } from './reader.ts';
import type { LineScope } from './scope.ts';

/** What a thread line says: the thread without its place in the piece. */
export interface LineThread {
  cue: Cue;
  branches: { steps: Step[] }[];
}

/** Writes a thread as one line; `parseLine` reads it back unchanged. */
export function printLine(thread: LineThread, scope: LineScope): string {
  const steps = (thread.branches[0]?.steps ?? []).map((step) => stepKind(step.do).print(step, scope));
  return `${cueKind(thread.cue.type).print(thread.cue)} → ${steps.join('; ')}`.trimEnd();
}

/** Reads one line. Without a cue it is a click; a frame's name alone means going there. */
export function parseLine(text: string, scope: LineScope): Result<LineThread, LineError> {
  const reader = new LineReader(text);
  try {
    return ok(readLine(reader, scope));
  } catch (error) {
    if (error instanceof LineError) return fail(error);
    throw error;
  }
}

/** Reads many lines, one thread each; empty lines are passed over. */
export function parseLines(text: string, scope: LineScope): Result<LineThread[], LineError & { line?: number }> {
  const threads: LineThread[] = [];
  for (const line of text.split('\n')) {
    if (line.trim() === '') continue;
    const parsed = parseLine(line, scope);
    if (!parsed.ok) return parsed;
    threads.push(parsed.value);
  }
  return ok(threads);
}

const ARROWS = ['→', '->', '>'];

export function readLine(reader: LineReader, scope: LineScope): LineThread {
  const type = reader.word(Object.keys(cueKinds) as CueType[]);
  const isCue = type !== null && (type === 'key' || type === 'after' || /^\s*(→|->|>|$)/.test(reader.rest));
  if (!isCue) reader.at = 0;
  const cue: Cue = isCue ? cueKind(type).read(reader) : { type: 'click' };
  if (isCue && !reader.sign(ARROWS)) reader.fail('an arrow (-> or →)');
  if (!isCue) reader.sign(ARROWS);
  return { cue, branches: [{ steps: readSteps(reader, scope) }] };
}

function readSteps(reader: LineReader, scope: LineScope): Step[] {
  const steps: Step[] = [];
  while (!reader.done) {
    steps.push(readStep(reader, scope));
    if (!reader.sign([';'])) break;
  }
  if (steps.length === 0) reader.offer([...Object.values(stepKinds).map((kind) => kind.keyword), ...scope.frames.map((frame) => frame.name)]);
  if (!reader.done) reader.fail(steps.length ? 'the end of the line, · and a transition, or ; and another step' : 'a step');
  return steps;
}

function readStep(reader: LineReader, scope: LineScope): Step {
  const keywords = Object.values(stepKinds).map((kind) => kind.keyword);
  const start = reader.at;
  const found = reader.word(keywords);
  const kind = Object.values(stepKinds).find((candidate) => candidate.keyword === found);
  if (kind && !(kind.do === 'open' && /^\s*($|;|·)/.test(reader.rest) && scope.frames.some((frame) => frame.name.toLowerCase() === 'open')))
    return stepKind(kind.do as StepType).read(reader, scope);
  reader.at = start;
  return { do: 'go', target: readTarget(reader, scope), transition: readTransition(reader) };
}

/** Cues that an owner can have, in the order of the table. */
export const cuesFor = (owner: OwnerKind): CueType[] => (Object.keys(cueKinds) as CueType[]).filter((type) => cueKinds[type].owners.includes(owner));
