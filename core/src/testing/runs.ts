const { process } = globalThis as { readonly process?: { readonly env: Readonly<Record<string, string | undefined>> } };

/** How often a law is tried: so many times, and as many times more as `TIMES` says. */
export const timesOver = (runs: number): number => runs * Math.max(1, Number(process?.env['TIMES'] ?? 1) || 1);
