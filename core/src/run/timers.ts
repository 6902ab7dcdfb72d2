import type { Thread } from '../piece/piece.ts';
import type { SceneProgram } from '../program/program.ts';

export interface Timer {
  /** Milliseconds after the frame is entered. */
  readonly ms: number;
  readonly thread: Thread;
  readonly layer: string | null;
}

const known = new WeakMap<SceneProgram, readonly Timer[]>();

/** A scene's timers in the order they fire: by time, then layers back to front, then the scene's own. */
export function timersOf(scene: SceneProgram): readonly Timer[] {
  let timers = known.get(scene);
  if (!timers) known.set(scene, (timers = collect(scene)));
  return timers;
}

function collect(scene: SceneProgram): Timer[] {
  const timers: Timer[] = [];
  const take = (threads: readonly Thread[], layer: string | null) => {
    for (const thread of threads) if (thread.enabled && thread.cue.type === 'after') timers.push({ ms: thread.cue.ms, thread, layer });
  };
  for (const item of scene.items) if (item.shown) take(item.threads, item.layer.id);
  take(scene.threads, null);
  return timers
    .map((timer, place) => ({ timer, place }))
    .sort((a, b) => a.timer.ms - b.timer.ms || a.place - b.place)
    .map(({ timer }) => timer);
}
