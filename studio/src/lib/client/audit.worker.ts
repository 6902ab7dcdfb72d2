/// <reference lib="webworker" />
import { apply, audit, compile, pieceFromTrusted, update, type Operation, type PieceJson, type Program } from '@zany/core';
import type { AuditAnswer, AuditTask } from './audit';

/** Keeps a piece of its own, fed by operations, and says anew what its loose ends are when it has come to rest. */
let program: Program | null = null;
let version = 0;
let timer: ReturnType<typeof setTimeout> | undefined;

/** Long enough that what is being drawn for the edit has the machine to itself. */
const PAUSE = 150;
/** The answer has to be there within a second of an edit, however many states a piece has. */
const MOST_TIME = 600;

onmessage = ({ data }: MessageEvent<AuditTask>) => {
  version = data.version;
  program = data.type === 'piece' ? compile(pieceFromTrusted(data.piece as PieceJson)) : take(data.operations);
  clearTimeout(timer);
  timer = setTimeout(answer, PAUSE);
};

function take(operations: readonly Operation[]): Program | null {
  if (!program) return null;
  const applied = apply(program.piece, operations);
  return applied.ok ? update(program, applied.value.piece, applied.value.touched) : program;
}

function answer(): void {
  if (!program) return;
  const began = performance.now();
  const { findings, exploration } = audit(program, { shouldStop: () => performance.now() - began > MOST_TIME });
  const message: AuditAnswer = {
    version,
    findings,
    states: exploration.states.length,
    moves: exploration.moves,
    cut: exploration.cut,
    fired: [...exploration.fired],
    reached: [...exploration.reached.keys()],
    ms: performance.now() - began,
  };
  postMessage(message);
}
