import type { KeptWalk } from '../piece/walks.ts';
import { centerOf, type Point } from '../program/geometry.ts';
import type { Program } from '../program/program.ts';
import { boundsOf, resolveScreen } from '../run/resolve.ts';
import { advance, begin } from '../run/run.ts';
import type { Report, RunEvent, RunState } from '../run/state.ts';
import { atRest, pictureAt, present, type Picture, type Presentation } from './presenter.ts';

/** A kept walk as a film: what is on the screen at each moment while it is walked, and where it is pressed. */

export interface FilmMoment {
  readonly picture: Picture;
  /** Where somebody presses just now, CSS px of the screen; null where nobody does. */
  readonly press: Point | null;
}

/** How long it stands still where nothing says how long, ms: at the beginning, before and after each thing that is done, and at the end. */
export const STANDS = { first: 800, before: 400, after: 500, last: 1200 } as const;

/**
 * The moments of a kept walk, so many a second, from the first on. The time of the piece passes where the walk waits, and nowhere else:
 * while the film shows what is about to be pressed, or how a change goes on, the piece stands still, as it does when the walk is replayed.
 */
export function* filmOfWalk(program: Program, walk: Pick<KeptWalk, 'from' | 'steps'>, perSecond: number): Generator<FilmMoment> {
  const begun = begin(program, program.frameAt.has(walk.from) ? walk.from : undefined);
  if (!begun) return;
  const film = new Film(program, begun.run, perSecond);
  yield* film.stand(STANDS.first, null);
  for (const [i, { event }] of walk.steps.entries()) {
    if (event.type === 'wait') yield* film.pass(Math.round(event.ms));
    else {
      yield* film.stand(STANDS.before, film.placeOf(event as RunEvent));
      film.take(event as RunEvent);
      // What comes of it is seen to its end, unless the walk itself gives it time.
      if (walk.steps[i + 1]?.event.type !== 'wait') yield* film.stand(film.underWay + STANDS.after, null);
    }
  }
  yield* film.stand(film.underWay + STANDS.last, null);
}

class Film {
  private presentation: Presentation;
  /** The film's own clock, ms: ahead of the piece's by as long as that stood still. */
  private now = 0;
  private shown = 0;

  constructor(
    private readonly program: Program,
    private run: RunState,
    private readonly perSecond: number
  ) {
    this.presentation = atRest(resolveScreen(program, run));
  }

  /** How long a change still goes on, ms. */
  get underWay(): number {
    return Math.max(0, this.presentation.until - this.now);
  }

  /** Where an event is done: at its own place, or in the middle of what it is done on. */
  placeOf(event: RunEvent): Point | null {
    if (event.type === 'press' || event.type === 'release') return { x: event.x, y: event.y };
    const layer = 'layer' in event ? event.layer : null;
    for (const surface of this.presentation.screen.surfaces)
      for (const shown of surface.all) if (shown.node.key === layer) return centerOf(boundsOf(shown));
    return null;
  }

  /** Shows so many ms in which the piece stands still. */
  *stand(ms: number, press: Point | null): Generator<FilmMoment> {
    const end = this.now + ms;
    while (this.due <= end) yield this.moment(press);
    this.now = end;
  }

  /** Shows so many ms that pass in the piece. */
  *pass(ms: number): Generator<FilmMoment> {
    const end = this.now + ms;
    while (this.due <= end) {
      this.wait(this.due - this.now);
      yield this.moment(null);
    }
    this.wait(end - this.now);
  }

  take(event: RunEvent): void {
    const { run, reports } = advance(this.program, this.run, event);
    this.run = run;
    this.present(reports);
  }

  /** When the next moment is shown. */
  private get due(): number {
    return Math.round((this.shown * 1000) / this.perSecond);
  }

  private moment(press: Point | null): FilmMoment {
    this.now = this.due;
    this.shown++;
    return { picture: pictureAt(this.presentation, this.now), press };
  }

  private wait(ms: number): void {
    if (ms <= 0) return;
    this.now += ms;
    this.take({ type: 'wait', ms });
  }

  private present(reports: readonly Report[]): void {
    const effects = reports.flatMap((report) => report.effects);
    this.presentation = present(this.presentation, resolveScreen(this.program, this.run), effects, this.now, { pointer: this.run.pointer });
  }
}
