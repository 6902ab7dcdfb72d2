import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';

/** A compiled verifier beside our own explorer: the same transition relation as a Promela model, all of whose states are found. */

const run = promisify(execFile);

/** Whole numbers from 0 to a greatest one, each of which a step of its own changes. */
export interface Model {
  readonly variables: number;
  readonly most: number;
  /** How a step changes a number, and when it can: `up` to the greatest one, or round and `round`. */
  readonly step: 'up' | 'round';
}

const promela = ({ variables, most, step }: Model): string => {
  const names = Array.from({ length: variables }, (_, i) => `v${i}`);
  const done = (name: string) => (step === 'up' ? `${name} < ${most} -> ${name} = ${name} + 1` : `${name} = (${name} + 1) % ${most + 1}`);
  return [
    ...names.map((name) => `byte ${name};`),
    'active proctype piece() {',
    'end: do',
    ...names.map((name) => `  :: d_step { ${done(name)} }`),
    '  od',
    '}',
  ].join('\n');
};

/** States and time in milliseconds; null where Spin or a C compiler is missing. */
export async function exploredBySpin(model: Model): Promise<{ readonly states: number; readonly took: number } | null> {
  const folder = await mkdtemp(join(tmpdir(), 'zany-spin-'));
  try {
    await writeFile(join(folder, 'piece.pml'), promela(model));
    await run('spin', ['-a', 'piece.pml'], { cwd: folder });
    await run('cc', ['-O2', '-DSAFETY', '-o', 'pan', 'pan.c'], { cwd: folder });
    // So deep, and with a table for so many, that nothing is cut.
    const began = performance.now();
    const { stdout } = await run(join(folder, 'pan'), ['-m2000000', '-w20'], { cwd: folder, maxBuffer: 1e8 });
    const took = performance.now() - began;
    const states = Number(/^\s*(\d+) states, stored/m.exec(stdout)?.[1]);
    if (!(states > 0) || stdout.includes('max search depth too small')) throw new Error(`Spin did not find all states:\n${stdout}`);
    return { states, took };
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
    throw error;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
