/** What the start and test commands print: a line a step. */
export const say = (text) => console.log(`· ${text}`);

/** Something outside is not as it has to be: one sentence that says what to do, and the end. */
export class Stop extends Error {}

/** Runs a command's main function; what has to be said is said without a stack. */
export async function main(work) {
  try {
    await work();
  } catch (error) {
    if (!(error instanceof Stop)) throw error;
    console.error(`\n${error.message}`);
    process.exitCode = 1;
  }
}

/** `3.2 s` since a moment. */
export const since = (began) => `${((Date.now() - began) / 1000).toFixed(1)} s`;
