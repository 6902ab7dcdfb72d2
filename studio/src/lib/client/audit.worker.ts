/// <reference lib="webworker" />
import {
  apply,
  audit,
  compareVersions,
  compile,
  exploring,
  guide,
  isComplete,
  judge,
  pieceFromTrusted,
  startOf,
  update,
  type Change,
  type Exploring,
  type Operation,
  type Program,
  type Version,
} from '@zany/core';
import type { AuditNews, AuditTask, AskAnswer, Guided, Ways } from './audit';
import { FindingsTeller } from './told-findings';

/**
 * Keeps a piece of its own, fed by operations, and says what its loose ends are when it has come to rest: soon what is found
 * in a moment, then, still exploring, what is found by the usual number of states, however long that takes on this machine.
 */
let program: Program | null = null;
let explored: Exploring | null = null;
/** What was explored before the last edit: what was learned of all that it left as it was is still true. */
let earlier: Exploring | null = null;
/** The piece as it was opened. */
let opened: Program | null = null;
/** The same, and as it is, each walked as far as is usual. */
let first: Version | null = null;
let last: Version | null = null;
const teller = new FindingsTeller();
let version = 0;
let most = 0;
let timer: ReturnType<typeof setTimeout> | undefined;
let spent = 0;
let busyUntil = 0;
let waitedSince: number | null = null;

/** Long enough that what is being drawn for the edit has the machine to itself. */
const PAUSE = 150;
/** Of exploring, before the first answer. */
const FIRST = 500;
/** What is not found by then is looked for when nothing was changed for a while, */
const LATER = 1200;
/** all in pieces of this length, so that the next edit is heard at once, */
const SLICE = 60;
/** later with as much time in between for everything else, */
const BETWEEN = 40;
/** and not while somebody presses keys or moves things: with two cores a second one at work doubles how long a picture takes. */
const REST = 200;
/** For somebody who never rests it goes on all the same, a piece each time this has passed. All in milliseconds. */
const PATIENCE = 2000;

onmessage = ({ data }: MessageEvent<AuditTask>) => {
  if (data.type === 'busy') return void (busyUntil = performance.now() + REST);
  if (data.type === 'guide') return tellWay(data);
  if (data.type === 'ways') return postMessage({ ask: data.ask, ways: waysNow() } satisfies AskAnswer);
  if (data.type === 'changes') return postMessage({ ask: data.ask, changes: changesNow() } satisfies AskAnswer);
  clearTimeout(timer);
  version = data.version;
  if (data.type === 'on') {
    if (!explored) return;
    most += data.states;
    timer = setTimeout(goOn, 0);
    return;
  }
  program = data.type === 'piece' ? compile(pieceFromTrusted(data.piece)) : take(data.operations);
  opened ??= program;
  earlier = data.type === 'piece' ? null : (explored ?? earlier);
  explored = null;
  timer = setTimeout(begin, PAUSE);
};

function tellWay({ ask, run, walked }: Extract<AuditTask, { type: 'guide' }>): void {
  const exploration = explored?.result();
  const next: Guided =
    program && exploration ? (guide(program, exploration, run, new Set(walked)) ?? (exploration.cut === null ? 'nothing' : null)) : null;
  postMessage({ ask, next } satisfies AskAnswer);
}

function changesNow(): readonly Change[] | null {
  if (!last || !opened) return null;
  // Where it was changed before it could be walked.
  first ??= { program: opened, audit: audit(opened) };
  return compareVersions(first, last);
}

function waysNow(): Ways | null {
  const exploration = explored?.result();
  if (!exploration) return null;
  const to = new Map(
    [...exploration.reached].map(([frame, state]) => [frame, { from: startOf(exploration, state), events: exploration.routeTo(state) }])
  );
  return { to, isWhole: isComplete(exploration) };
}

function take(operations: readonly Operation[]): Program | null {
  if (!program) return null;
  const applied = apply(program.piece, operations);
  return applied.ok ? update(program, applied.value.piece, applied.value.touched) : program;
}

function begin(): void {
  if (!program) return;
  explored = exploring(program, earlier);
  earlier = null;
  most = explored.usual;
  spent = 0;
  goOn();
}

/** Explores a piece further, and comes back for the next until it has come to its end, or as far as it was to come. */
function goOn(): void {
  if (isToWait()) return void (timer = setTimeout(goOn, busyUntil - performance.now()));
  const wasFirst = spent < FIRST;
  const began = performance.now();
  const stopped = explored!.on(most, () => performance.now() - began > SLICE);
  spent += performance.now() - began;
  if (stopped !== 'paused') return answer(true);
  const isFirst = spent < FIRST;
  if (wasFirst && !isFirst) answer(false);
  timer = setTimeout(goOn, isFirst ? 0 : wasFirst ? LATER : BETWEEN);
}

function isToWait(): boolean {
  const now = performance.now();
  if (now >= busyUntil || (waitedSince !== null && now - waitedSince > PATIENCE)) {
    waitedSince = null;
    return false;
  }
  waitedSince ??= now;
  return true;
}

function answer(isDone: boolean): void {
  const audit = judge(program!, explored!.result());
  const { findings, aside, exploration } = audit;
  if (isDone) {
    last = { program: program!, audit };
    if (program === opened) first ??= last;
  }
  const message: AuditNews = {
    version,
    isDone,
    findings: teller.tell(findings),
    aside,
    states: exploration.count,
    moves: exploration.moves,
    cut: exploration.cut,
    isLeft: exploration.left > 0,
    fired: [...exploration.fired],
    reached: [...exploration.reached.keys()],
    ms: spent,
  };
  postMessage(message);
}
