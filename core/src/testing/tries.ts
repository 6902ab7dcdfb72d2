import type { Program } from '../program/program.ts';
import { standingScreen } from '../run/resolve.ts';
import { advance, start } from '../run/run.ts';
import type { RunEvent, RunState } from '../run/state.ts';
import { eventsIn } from '../walk/events-in.ts';
import { tellingOf } from '../walk/telling.ts';

/** So many things that somebody does one after the other, out of all that can be done each time. */
export function randomEvents(program: Program, random: () => number, count: number): RunEvent[] {
  const telling = tellingOf(program);
  const events: RunEvent[] = [];
  let run: RunState | null = start(program);
  while (run && events.length < count) {
    const all: RunEvent[] = [...eventsIn(program, run, standingScreen(program, run), telling)];
    if (all.length === 0) break;
    const event: RunEvent = all[Math.floor(random() * all.length)]!;
    events.push(event);
    run = advance(program, run, event).run;
  }
  return events;
}
