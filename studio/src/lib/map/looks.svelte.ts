import { count, eventWords, replay, start } from '@zany/core';
import type { EditorSession } from '$lib/client/session.svelte';
import type { Ways } from '$lib/client/audit';
import { ask } from '$lib/client/api';
import { pressesByFrame, timesFired, type FramePresses } from '$lib/hand/results';
import type { ReviewLink, ReviewResults } from '$lib/shared/types';
import { Coverage, threadsOn } from '$lib/walk/coverage.svelte';

/** What the map says of frames besides how they lead to each other. */
export const mapLooks = {
  plain: 'how it leads',
  walked: 'what I have walked',
  steps: 'steps from the start',
  reviewed: 'what was done by a link',
} as const;

export type MapLook = keyof typeof mapLooks;

export interface Note {
  readonly text: string;
  /** Walked to the end, or reached; to some extent; not at all; never to be reached. */
  readonly tone: 'good' | 'part' | 'none' | 'bad';
}

/** What was done by a review link, as the map says it. */
interface Review {
  readonly words: string;
  readonly times: ReadonlyMap<string, number>;
  readonly presses: ReadonlyMap<string, FramePresses>;
}

/** The shortest way to a frame, in words, with the threads that it fires. */
export interface Way {
  readonly words: string;
  readonly threads: ReadonlySet<string>;
}

export class MapLooks {
  private chosen: MapLook = $state('plain');
  private ways: Ways | null = $state.raw(null);
  /** Asked for when somebody looks. */
  private coverage: Coverage | null = $state.raw(null);
  private asked = 0;
  /** What was done by one review link. */
  private review = $state.raw<Review | null>(null);

  constructor(private readonly session: EditorSession) {}

  get look(): MapLook {
    return this.chosen;
  }

  set look(look: MapLook) {
    this.chosen = look;
    if (look === 'walked') this.know();
    if (look === 'reviewed') void this.readReview(null);
  }

  /** Asks the walk how each frame is come to; what an earlier answer says of an older piece is not shown. */
  ask(): void {
    const asked = ++this.asked;
    this.ways = null;
    void this.session.ways().then((ways) => {
      if (asked === this.asked) this.ways = ways;
    });
  }

  /** How many branches the threads of each frame have, and how many of them were walked. */
  private readonly walked = $derived.by(() => {
    const found = new Map<string, { all: number; walked: number }>();
    const { program } = this.session;
    for (const id of program.frames) {
      const branches = threadsOn(program, id).flatMap((thread) => thread.branches.map((_, branch) => this.has(thread.id, branch)));
      found.set(id, { all: branches.length, walked: branches.filter(Boolean).length });
    }
    return found;
  });

  /** Whose walks are shown, and why none are. */
  get reviewWords(): string | null {
    return this.look === 'reviewed' ? (this.review?.words ?? 'Running again what was done by links…') : null;
  }

  /** Reads what was done by a link, or by the newest that anybody came in by. */
  async readReview(wanted: string | null): Promise<void> {
    this.chosen = 'reviewed';
    const path = `/api/pieces/${this.session.id}/links`;
    const links = await ask<{ links: ReviewLink[] }>('GET', path);
    const link = links.ok ? links.value.links.find(({ id, holders }) => (wanted === null ? holders > 0 : id === wanted)) : undefined;
    const results = link && (await ask<ReviewResults>('GET', `${path}/${link.id}/results`));
    if (!link || !results?.ok) {
      const words = !links.ok ? links.error.sentence : results && !results.ok ? results.error.sentence : 'Nobody has walked by a link yet.';
      this.review = { words, times: new Map(), presses: new Map() };
      return;
    }
    const { trails, holders } = results.value;
    this.review = {
      words: `${link.name}: ${count(holders.length, 'person', 'people')}, ${count(trails.length, 'go', 'goes')}`,
      times: timesFired(trails),
      presses: new Map(pressesByFrame(trails).map((one) => [one.frame, one])),
    };
  }

  /** How often some threads fired by the link; null where that is not looked at. */
  timesOf(threads: readonly string[]): number | null {
    if (this.look !== 'reviewed' || !this.review) return null;
    return threads.reduce((sum, thread) => sum + (this.review!.times.get(thread) ?? 0), 0);
  }

  /** Where a frame was pressed by those who came by the link. */
  pressesOn(frame: string): FramePresses['presses'] {
    return this.look === 'reviewed' ? (this.review?.presses.get(frame)?.presses ?? []) : [];
  }

  noteOn(frame: string): Note | null {
    if (this.look === 'reviewed') {
      const found = this.review?.presses.get(frame);
      if (!found) return null;
      const { presses, nothing } = found;
      return {
        text: nothing ? `${nothing} of ${presses.length} met nothing` : count(presses.length, 'press', 'presses'),
        tone: nothing ? 'bad' : 'good',
      };
    }
    if (this.look === 'walked') {
      const { all, walked } = this.walked.get(frame) ?? { all: 0, walked: 0 };
      if (all === 0) return null;
      return { text: `${walked} of ${all}`, tone: walked === all ? 'good' : walked ? 'part' : 'none' };
    }
    if (this.look !== 'steps' || !this.ways) return null;
    const way = this.ways.to.get(frame);
    if (way) return { text: way.events.length ? count(way.events.length, 'step') : 'begins here', tone: 'good' };
    return this.ways.isWhole ? { text: 'cannot be reached', tone: 'bad' } : { text: 'not come to yet', tone: 'none' };
  }

  /** Comes to know what was walked. */
  know(): void {
    this.coverage ??= new Coverage(this.session.id);
  }

  /** Whether something in a frame has not been walked, as far as is known. */
  isUnwalked(frame: string): boolean {
    const { all, walked } = this.walked.get(frame) ?? { all: 0, walked: 0 };
    return walked < all;
  }

  private has = (thread: string, branch: number): boolean => this.coverage?.has(this.session.program, thread, branch) ?? false;

  isWalked = (thread: string): boolean =>
    this.look === 'walked' && (this.session.piece.threads.get(thread)?.branches.every((_, branch) => this.has(thread, branch)) ?? false);

  wayTo(frame: string): Way | null {
    const way = this.look === 'steps' ? this.ways?.to.get(frame) : undefined;
    const { program } = this.session;
    const begun = way && start(program, way.from);
    if (!way || !begun) return null;
    const nameOf = (id: string) => program.piece.scenes.get(id)?.name ?? 'a frame that is gone';
    const { reports } = replay(program, begun, way.events);
    const said = way.events.map((event) => eventWords(program, event)).join(', ');
    return {
      words: way.events.length ? `To ${nameOf(frame)} from ${nameOf(way.from)}: ${said}` : `${nameOf(frame)} is where the piece begins`,
      threads: new Set(reports.flatMap(({ fired }) => fired.map(({ thread }) => thread))),
    };
  }
}
