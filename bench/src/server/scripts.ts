import type { ChildProcess } from 'node:child_process';

/** The scripts that start a studio, as far as measuring needs them. */
export interface Scripts {
  readonly startStudio: (options: { port: number; databaseUrl: string; demo: boolean; logLevel: string }) => Promise<ChildProcess>;
  readonly end: (child: ChildProcess) => Promise<void>;
  readonly freePort: () => Promise<number>;
}

export async function scripts(): Promise<Scripts> {
  const parts = await Promise.all(['studio', 'ports'].map((name) => import(`../../../scripts/lib/${name}.mjs`) as Promise<object>));
  return Object.assign({}, ...parts) as Scripts;
}

/** Prints one figure. */
export type Tell = (what: string, figure: string, budget?: string) => void;
