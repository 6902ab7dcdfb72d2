import { count, eventWords, replay, start } from '@zany/core';
import type { EditorSession } from '$lib/client/session.svelte';
import type { Ways } from '$lib/client/audit';
import { Coverage, threadsOn } from '$lib/walk/coverage.svelte';

/** What the map says of frames besides how they lead to each other. */
export const mapLooks = {
  plain: 'how it leads',
  walked: 'what I have walked',
  steps: 'steps from the start',
} as const;

export type MapLook = keyof typeof mapLooks;

export interface Note {
  readonly text: string;
  /** Walked to the end, or reached; to some extent; not at all; never to be reached. */
  readonly tone: 'good' | 'part' | 'none' | 'bad';
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

  constructor(private readonly session: EditorSession) {}

  get look(): MapLook {
    return this.chosen;
  }

  set look(look: MapLook) {
    this.chosen = look;
    if (look === 'walked') this.know();
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

  noteOn(frame: string): Note | null {
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
