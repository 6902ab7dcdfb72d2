import { printLine, scopeFor, type Program, type Report } from '@zany/core';

/**
 * Which threads a person has walked, kept in this browser. A thread counts with what it said when it was walked: one that
 * has been rewritten since has to be walked again, edits elsewhere change nothing.
 */
export class Coverage {
  private walked: Readonly<Record<string, string>> = $state.raw({});
  private readonly key: string;

  constructor(piece: string) {
    this.key = `zany-walked/${piece}`;
    this.walked = read(this.key);
  }

  add(program: Program, reports: readonly Report[]): void {
    const fired = reports.flatMap((report) => report.fired.map(({ thread }) => thread));
    if (fired.length === 0) return;
    const lines = Object.fromEntries(fired.flatMap((id) => lineOf(program, id) ?? []));
    this.walked = { ...this.walked, ...lines };
    localStorage.setItem(this.key, JSON.stringify(this.walked));
  }

  has(program: Program, thread: string): boolean {
    const now = lineOf(program, thread)?.[0];
    return now !== undefined && this.walked[thread] === now[1];
  }

  clear(): void {
    this.walked = {};
    localStorage.removeItem(this.key);
  }
}

function lineOf(program: Program, id: string): [[string, string]] | null {
  const thread = program.piece.threads.get(id);
  return thread ? [[id, printLine(thread, scopeFor(program.piece, thread))]] : null;
}

function read(key: string): Record<string, string> {
  try {
    const json = JSON.parse(localStorage.getItem(key) ?? '{}') as Record<string, string>;
    return typeof json === 'object' && json !== null ? json : {};
  } catch {
    return {};
  }
}
