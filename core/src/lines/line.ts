import { cueKind, cueKinds } from '../vocabulary/cues/all.ts';
import type { OwnerKind } from '../vocabulary/cues/define.ts';
import type { Cue, CueType } from '../vocabulary/cues/all.ts';
import { displayExpression } from '../expression/names.ts';
import type { Branch } from '../piece/piece.ts';
import { fail, ok, type Result } from '../result.ts';
import { stepKind, stepKinds } from '../vocabulary/steps/all.ts';
import type { Step } from '../vocabulary/steps/all.ts';
import { fitsForm, leadOf, printForm, readOneOf } from './form.ts';
import type { Form } from '../fields/forms.ts';
import { LineError, LineReader } from './reader.ts';
import { slots } from './slots.ts';
import type { LineScope } from './scope.ts';

/** What a thread line says: the thread without its place in the piece. */
export interface LineThread {
  cue: Cue;
  branches: Branch[];
}

/** The form that a cue is written in. */
export const formOfCue = (cue: Cue): Form => cueKind(cue.type).forms.find((form) => fitsForm(form, cue)) ?? cueKind(cue.type).forms[0]!;

/** The form that a step is written in. */
export const formOfStep = (step: Step): Form => stepKind(step.do).forms.find((form) => fitsForm(form, step)) ?? stepKind(step.do).forms[0]!;

export const printCue = (cue: Cue, scope: LineScope): string => printForm(formOfCue(cue), cue, scope);

/** A step as a line writes it: `with` starts it together with the one before, `lasting` lets it go on when its scene is left. */
export const printStep = (step: Step, scope: LineScope): string =>
  `${step.with ? 'with ' : ''}${step.lasting ? 'lasting ' : ''}${printForm(formOfStep(step), step, scope)}`;

/** Writes a thread as one line; `parseLine` reads it back unchanged. */
export function printLine({ cue, branches }: LineThread, scope: LineScope): string {
  const parts = branches.map((branch, i) => {
    const steps = branch.steps.map((step) => printStep(step, scope)).join('; ');
    const condition = branch.if === undefined ? '' : `if ${displayExpression(branch.if, scope.expression).text} →`;
    const begin = i === 0 ? condition : condition ? `otherwise ${condition}` : 'otherwise →';
    return [begin, steps].filter(Boolean).join(' ');
  });
  return `${printCue(cue, scope)} → ${parts.join('; ')}`.trimEnd();
}

/** Reads one line. Without a cue it is a click; a frame's name alone means going there. */
export function parseLine(text: string, scope: LineScope): Result<LineThread, LineError> {
  const read = parse(text, scope);
  if (read.ok) return read;
  // As a thread is read out, its steps stand with *then* between them; a semicolon takes its place and keeps the columns.
  const spoken = text.replace(/ then (?=(?:[^"]*"[^"]*")*[^"]*$)/gi, ';     ');
  const again = spoken === text ? read : parse(spoken, scope);
  return again.ok ? again : read;
}

function parse(text: string, scope: LineScope): Result<LineThread, LineError> {
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
const isArrow = (reader: LineReader) => /^\s*(→|->|>|$)/.test(reader.rest);

const byLead = (forms: readonly Form[]) => [...forms].sort((a, b) => leadOf(b) - leadOf(a));
const cueForms = byLead(Object.values(cueKinds).flatMap((kind) => kind.forms));
const stepForms = byLead(Object.values(stepKinds).flatMap((kind) => kind.forms));
/** An address by itself is opened, in a new tab. */
const bareAddress: Form = { sets: { do: 'open', tab: 'new' }, parts: [{ path: 'address', kind: 'address' }] };
const ADDRESS = /^\s*(https?:\/\/|mailto:|tel:)\S/i;
const bareTarget: Form = {
  sets: { do: 'go' },
  parts: [
    { path: 'target', kind: 'target' },
    { path: 'transition', kind: 'transition' },
  ],
};

export function readLine(reader: LineReader, scope: LineScope): LineThread {
  const begin = reader.at;
  const read = readOneOf(cueForms, reader, scope, isArrow);
  let cue: Cue = { type: 'click' };
  let doubt: LineError | null = null;
  if (read instanceof LineError) {
    doubt = read;
    reader.at = begin;
    reader.sign(ARROWS);
  } else {
    cue = read.value as unknown as Cue;
    if (!reader.sign(ARROWS)) reader.fail('an arrow (-> or →)');
  }
  try {
    return { cue, branches: readBranches(reader, scope) };
  } catch (error) {
    // What was begun as a cue is explained as one where that got further.
    if (error instanceof LineError && doubt && doubt.column > error.column) throw doubt;
    // What stands before an arrow is a cue, not a frame that is still to be made.
    if (error instanceof LineError && error.unknownFrame !== null && isBeforeArrow(reader.text, error))
      throw new LineError(error.column, 'a cue, such as click or hover', error.found);
    throw error;
  }
}

const isBeforeArrow = (text: string, { column, unknownFrame }: LineError) =>
  /^"?\s*(→|->|>)/.test(
    text
      .slice(column - 1)
      .replace(/^"/, '')
      .slice(unknownFrame!.length)
  );

function readBranches(reader: LineReader, scope: LineScope): Branch[] {
  const branches: Branch[] = [readBranch(reader, scope, reader.word(['if']) !== null)];
  while (!reader.done) {
    if (reader.word(['otherwise']) === null)
      reader.fail(branches[0]!.steps.length ? 'the end of the line, · and a transition, or ; and another step' : 'a step');
    const hasCondition = reader.word(['if']) !== null;
    if (!hasCondition && !reader.sign(ARROWS)) reader.fail('if, or an arrow (-> or →)');
    branches.push(readBranch(reader, scope, hasCondition));
  }
  return branches;
}

function readBranch(reader: LineReader, scope: LineScope, hasCondition: boolean): Branch {
  let condition: string | undefined;
  if (hasCondition) {
    condition = slots.expression.read(reader, { scope, slot: { path: 'if', kind: 'expression' }, whole: {} });
    if (!reader.sign(['→', '->'])) reader.fail('an arrow (-> or →)');
  }
  return { ...(condition !== undefined && { if: condition }), steps: readSteps(reader, scope) };
}

const nextIsOtherwise = (reader: LineReader) => /^\s*otherwise(?![\p{L}\p{N}])/iu.test(reader.rest);

function readSteps(reader: LineReader, scope: LineScope): Step[] {
  const steps: Step[] = [];
  while (!reader.done && !nextIsOtherwise(reader)) {
    if (steps.length === 0 && reader.sign([';'])) break;
    if (steps.length > 0 && /^\s*then\s+[^\s;·,→]/i.test(reader.rest)) reader.word(['then']);
    steps.push(readStep(reader, scope, steps.length > 0));
    if (!reader.sign([';'])) break;
  }
  if (steps.length === 0) offerSteps(reader, scope);
  else if (reader.done && /;\s*$/.test(reader.text)) offerSteps(reader, scope, ['with', 'otherwise']);
  return steps;
}

const firstWords = [
  ...new Set(
    stepForms.flatMap((form) =>
      typeof form.parts[0] === 'string' ? [form.parts[0]] : Object.keys((form.parts[0] as { words?: object }).words ?? {})
    )
  ),
];

function offerSteps(reader: LineReader, scope: LineScope, more: readonly string[] = ['if']): void {
  reader.offer([...firstWords, ...more, ...scope.frames.map((frame) => frame.name)]);
}

const mayEnd = (reader: LineReader) => /^\s*(;|$)/.test(reader.rest);

function readStep(reader: LineReader, scope: LineScope, isLater: boolean): Step {
  const joined = isLater && reader.word(['with']) !== null;
  const lasting = reader.word(['lasting']) !== null;
  const begin = reader.at;
  // Where there are sections, turning to the next one is what a word like “next” is for.
  if (scope.labelsOf(scope.scene ?? undefined).length > 1) reader.offer(['play next section', 'play previous section'], true);
  let read = readOneOf(stepForms, reader, scope, mayEnd);
  if (read instanceof LineError) {
    reader.at = begin;
    const bare = readOneOf([ADDRESS.test(reader.rest) ? bareAddress : bareTarget], reader, scope, mayEnd);
    if (bare instanceof LineError) {
      reader.at = begin;
      throw bare.column >= read.column && bare.unknownFrame !== null ? bare : read.column >= bare.column ? read : bare;
    }
    read = bare;
  }
  return { ...(read.value as unknown as Step), ...(joined && { with: true as const }), ...(lasting && { lasting: true as const }) };
}

/** Cues that an owner can have, in the order of the table. */
export const cuesFor = (owner: OwnerKind): CueType[] => (Object.keys(cueKinds) as CueType[]).filter((type) => cueKinds[type].owners.includes(owner));
