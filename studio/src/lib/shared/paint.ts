/** At the latest, for pages that are not seen and so are never painted. Milliseconds. */
const PATIENCE = 200;

/** Calls back once what is changed now has been painted; gives a function that calls it off. */
export function afterPaint(done: () => void): () => void {
  let next: ReturnType<typeof setTimeout> | undefined;
  const late = setTimeout(run, PATIENCE);
  const frame = requestAnimationFrame(() => (next = setTimeout(run)));
  function stop() {
    cancelAnimationFrame(frame);
    clearTimeout(next);
    clearTimeout(late);
  }
  function run() {
    stop();
    done();
  }
  return stop;
}
