import { stepsOf, type KeptEvent, type KeptStep, type Program, type Report, type RunEvent, type RunState } from '@zany/core';

/** What somebody does in a running piece, as a walk that can be kept: what he pressed by name, not where. */

export type Recorded = { readonly from: string; readonly steps: KeptStep[] } | { readonly why: string };

/** Events that are kept as they are. */
const AS_THEY_ARE: ReadonlySet<RunEvent['type']> = new Set([
  'click',
  'hold',
  'let-go',
  'double-click',
  'long-press',
  'beside',
  'swipe',
  'key',
  'value',
  'pad',
  'signal',
  'scroll',
  'media',
  'drag',
  'set',
]);

export class Recorder {
  private from: string | null = null;
  private events: { readonly event: KeptEvent; readonly clock: number }[] = [];
  /** Whether something came about since the last press. */
  private isStirred = false;
  private why = 'Start over to walk from a beginning.';

  /** A run begins anew on a frame. */
  begin(frame: string): void {
    [this.from, this.events] = [frame, []];
  }

  /** Forgets what was done after a moment of the run's clock. */
  backTo(clock: number): void {
    this.events = this.events.filter((one) => one.clock <= clock);
  }

  /** What came of an event, or of time; `before` is the run as it was then. */
  take(program: Program, before: RunState | null, reports: readonly Report[]): void {
    for (const report of reports) this.takeOne(program, before?.pressed ?? null, report);
  }

  private takeOne(program: Program, pressed: RunState['pressed'], report: Report): void {
    const { event, cause, clock, fired } = report;
    if (event.type === 'jump') {
      this.from = null;
      this.why = 'It jumped to a frame. Start over to walk from a beginning.';
    }
    if (this.from === null) return;
    const cues = new Set(fired.map(({ thread }) => program.piece.threads.get(thread)?.cue.type));
    if (pressed?.drag?.moving) {
      // A drag is one thing done, from where it was pressed to where it was let go.
      if (this.events.at(-1)?.event.type === 'hold') this.events.pop();
      if (event.type === 'release')
        this.events.push({ event: { type: 'drag', layer: pressed.drag.node, dx: event.x - pressed.from.x, dy: event.y - pressed.from.y }, clock });
      return;
    }
    if (event.type === 'press') this.isStirred = false;
    else if (event.type !== 'release') this.isStirred ||= fired.length > 0;
    if (cause !== undefined && !cues.has('long press')) return;
    const made = event.type === 'release' && pressed && this.isHeld(pressed) ? this.letGo(report, cues) : this.eventOf(report, cues);
    if (!made) return;
    // A long press is one thing done, from the press on.
    if (made.type === 'long-press' && this.events.at(-1)?.event.type === 'hold') this.events.pop();
    if (made.type === 'double-click' && this.events.at(-1)?.event.type === 'click') this.events.pop();
    this.events.push({ event: made, clock });
  }

  /** Whether a press was kept as one that is held: what an earlier one led away from is not let go any more. */
  private isHeld({ at }: NonNullable<RunState['pressed']>): boolean {
    const last = this.events.findLast(({ event }) => event.type === 'hold' || event.type === 'let-go');
    return last?.event.type === 'hold' && last.clock === at;
  }

  /** The end of a press; together they are a click where nothing came about in between. */
  private letGo({ whyNot }: Report, cues: ReadonlySet<string | undefined>): KeptEvent {
    const isElsewhere = whyNot.some(({ code }) => code === 'let-go-elsewhere');
    const last = this.events.at(-1)!.event;
    if (isElsewhere || this.isStirred || last.type !== 'hold') return { type: 'let-go', where: isElsewhere ? 'elsewhere' : 'there' };
    this.events.pop();
    return { ...last, type: cues.has('double click') ? 'double-click' : 'click' };
  }

  /** What was done, where a walk can hold it. */
  private eventOf({ event, layer, fired, effects }: Report, cues: ReadonlySet<string | undefined>): KeptEvent | null {
    if (cues.has('long press')) return { type: 'long-press', layer };
    if (event.type === 'press' && fired.length > 0) return { type: 'hold', layer };
    if (event.type === 'release') {
      if (fired.length === 0 && effects.some(({ type }) => type === 'lift')) return { type: 'beside' };
      if (layer === null && fired.length === 0) return null;
      if (cues.has('double click')) return { type: 'double-click', layer };
      return { type: 'click', layer };
    }
    if (event.type === 'move' && layer !== null && fired.length > 0) return { type: cues.has('leave') ? 'leave' : 'hover', layer } as KeptEvent;
    if (event.type === 'focus' && fired.length > 0) return event;
    return AS_THEY_ARE.has(event.type) ? (event as KeptEvent) : null;
  }

  get length(): number {
    return this.from === null ? 0 : this.events.length;
  }

  /** The walk so far, with what came of each step; why not, where it would not lead where the run has led. */
  walk(program: Program, run: RunState): Recorded {
    if (this.from === null) return { why: this.why };
    if (this.events.length === 0) return { why: 'Nothing was done yet.' };
    const { from } = this;
    let clock = 0;
    const timed = this.events.flatMap(({ event, clock: at }): KeptEvent[] => {
      const ms = Math.round(at - clock);
      clock = at;
      return ms > 0 ? [{ type: 'wait', ms }, event] : [event];
    });
    const rest = Math.round(run.clock - clock);
    const all = stepsOf(program, from, rest > 0 ? [...timed, { type: 'wait', ms: rest }] : timed);
    const end = all?.at(-1);
    if (!all || !end || end.frame !== run.frame || (end.laid ?? []).join() !== run.overlays.map(({ frame }) => frame).join())
      return { why: 'Done again from the beginning it would lead elsewhere, so it cannot be kept.' };
    // Waiting is left out where it makes no difference.
    const plain = stepsOf(
      program,
      from,
      this.events.map(({ event }) => event)
    )!;
    const made = all.filter(({ event }) => event.type !== 'wait');
    const isSame = made.length === plain.length && same(plain, made) && same(plain.slice(-1), [{ ...end, event: plain.at(-1)!.event }]);
    return { from, steps: isSame ? plain : all };
  }
}

const same = (a: readonly KeptStep[], b: readonly KeptStep[]): boolean => JSON.stringify(a) === JSON.stringify(b);
