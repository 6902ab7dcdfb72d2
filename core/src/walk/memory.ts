import type { Program } from '../program/program.ts';
import type { SlotName } from '../run/recording.ts';
import type { RunEvent } from '../run/state.ts';
import type { Table } from '../table.ts';
import type { Ambient } from './ambient.ts';
import { areSame } from '../same.ts';
import { Learned, Shelf, type Question, type Reading } from './learned.ts';
import type { Race } from './race.ts';
import type { Seeing } from './sights.ts';
import { Slots } from './slots.ts';
import type { Telling } from './telling.ts';

/** What comes of an event wherever it holds. */
export interface Outcome {
  /** Scenes of which nothing is left. */
  readonly cleared: readonly string[];
  readonly columns: readonly number[];
  readonly values: readonly number[];
  /** Whether the top of the back stack was taken off, and what was put on then. */
  readonly isTaken: boolean;
  readonly pushed: readonly string[];
  readonly threads: readonly string[];
  /** Branches that fire, and those of them that do something. */
  readonly branches: readonly string[];
  readonly acted: readonly string[];
  /** Those that do something where it leads to another state at all: what it clears may have been as it begins. */
  readonly clearing: readonly string[];
  /** Threads that set each other off without end. */
  readonly endless: readonly string[];
  readonly race: Race | null;
  /** A link is opened in the same tab, which leaves the piece. */
  readonly leaves: boolean;
  /** It starts something a third time before what it started first has ended. */
  readonly isHurry: boolean;
  /** It asks for more of the back stack than is known. */
  readonly isDeep: boolean;
  /** All columns that it writes, those of cleared scenes first, as far as there were so many columns. */
  written: Written | null;
}

export interface Written {
  readonly columns: readonly number[];
  readonly values: readonly number[];
  readonly known: number;
}

/** What is seen in a state, as far as it is judged by where things stand. */
export interface Seen extends Seeing {
  readonly isCut: boolean;
}

/** What can be asked for besides scenes: the order of frames, and what is said of the piece as a whole. */
const ORDER = '*frames';
const HEAD = '*head';

/**
 * All that was learned of a piece. It stays true of an edited piece as far as it was learned of scenes that the edit left as they were,
 * those included that were not there; what is asked for is always asked of a program that notes the scenes it is asked for.
 */
export class Memory {
  readonly slots: Slots;
  readonly shelf: Shelf;
  readonly events: RunEvent[] = [];
  private readonly eventNumbers = new Map<string, number>();
  private readonly outcomes: Learned<Outcome>[] = [];
  private readonly possible = new Map<string, Learned<readonly number[]>>();
  private readonly seen = new Map<string, Learned<Seen>>();
  /** The questions that were answered with a scene, to be asked anew once it is another. */
  private readonly about = new Map<string, Set<Question>>();
  private readonly questions = new WeakMap<object, Question>();
  /** Those that were forgotten with the last edit. */
  private readonly stale = new Set<Question>();
  private asked = new Set<string>();
  watched: Program;
  /** What was read for an answer, as columns. */
  private readonly reads = new WeakMap<object, readonly number[]>();
  /** How many columns there were when it was given. */
  private readonly known = new WeakMap<object, number>();
  private readonly tops = new Map<string, number>([['', 0]]);

  constructor(
    private program: Program,
    private telling: Telling,
    private ambient: Ambient
  ) {
    this.watched = this.watch(program);
    this.slots = new Slots(program, telling, (slot) => this.shelf.opened(slot));
    this.shelf = new Shelf(() => this.slots);
  }

  /** Goes on with an edited piece; false where too much of it is another. */
  goOn(program: Program, telling: Telling, ambient: Ambient): boolean {
    const old = this.program;
    const isAlike =
      old.variables === program.variables &&
      old.threads === program.threads &&
      (old.piece.head.fps ?? 24) === (program.piece.head.fps ?? 24) &&
      this.telling.words === telling.words;
    if (!isAlike) return false;
    for (const question of this.stale) question.isStale = false;
    this.stale.clear();
    for (const id of new Set([...old.scenes.keys(), ...program.scenes.keys()])) {
      const isSame = old.scenes.get(id) === program.scenes.get(id) && this.ambient.wordsOf(id) === ambient.wordsOf(id);
      if (!isSame) this.forgetAbout(id);
    }
    if (old.frames !== program.frames) this.forgetAbout(ORDER);
    if (old.piece.head !== program.piece.head) this.forgetAbout(HEAD);
    this.program = program;
    this.telling = telling;
    this.ambient = ambient;
    this.watched = this.watch(program);
    this.slots.goOn(program, telling);
    return true;
  }

  private forgetAbout(scene: string): void {
    for (const question of this.about.get(scene) ?? []) {
      question.forget();
      question.isStale = true;
      this.stale.add(question);
    }
    this.about.delete(scene);
  }

  /** What comes of something, and the scenes that were asked for; they count as asked for here. */
  noting<T>(make: () => T): { readonly made: T; readonly scenes: ReadonlySet<string> } {
    const before = this.asked;
    const scenes = (this.asked = new Set<string>());
    const made = make();
    this.asked = before;
    this.note(scenes);
    return { made, scenes };
  }

  /** Scenes count as asked for. */
  note(scenes: Iterable<string>): void {
    for (const scene of scenes) this.asked.add(scene);
  }

  private watch(program: Program): Program {
    const table = <T>(of: Table<T>): Table<T> =>
      Object.assign(Object.create(of) as Table<T>, {
        get: (id: string) => (this.asked.add(id), of.get(id)),
        has: (id: string) => (this.asked.add(id), of.has(id)),
      });
    const note = (what: string) => this.asked.add(what);
    const { frames, frameAt } = program;
    const { head } = program.piece;
    const at: Pick<Program['frameAt'], 'get' | 'has'> = {
      get: (id) => (note(ORDER), frameAt.get(id)),
      has: (id) => (note(id), frameAt.has(id)),
    };
    return {
      ...program,
      scenes: table(program.scenes),
      frameAt: Object.assign(Object.create(frameAt) as Program['frameAt'], at),
      get frames() {
        note(ORDER);
        return frames;
      },
      piece: {
        ...program.piece,
        scenes: table(program.piece.scenes),
        get head() {
          note(HEAD);
          return head;
        },
      },
    };
  }

  /** The columns that were looked at for an answer. */
  readsOf = (answer: object): readonly number[] => this.reads.get(answer) ?? [];

  /** What an answer was given to. */
  questionOf = (answer: object): Question => this.questions.get(answer)!;

  /** Whether an answer was found by looking at the same columns, in the same order, as one before: but for those that there were not then. */
  isReadAlike(old: object, now: object): boolean {
    const known = this.known.get(old)!;
    return areSame(
      this.readsOf(old),
      this.readsOf(now).filter((column) => column < known)
    );
  }

  /** A frame on the top of a back stack as a number; 0 is none. */
  topNumber(frame: string): number {
    let number = this.tops.get(frame);
    if (number === undefined) this.tops.set(frame, (number = this.tops.size));
    return number;
  }

  eventNumber(event: RunEvent): number {
    const key = JSON.stringify(event);
    let number = this.eventNumbers.get(key);
    if (number === undefined) {
      this.eventNumbers.set(key, (number = this.events.length));
      this.events.push(event);
      this.outcomes.push(new Learned(this.shelf));
    }
    return number;
  }

  outcomeOf = (event: number, reading: Reading, ask: () => Answered<Outcome>): Outcome => this.answer(this.outcomes[event]!, reading, ask);

  eventsOf = (frame: string, reading: Reading, ask: () => Answered<readonly number[]>): readonly number[] =>
    this.answer(questionIn(this.possible, frame, this.shelf), reading, ask);

  seenIn = (frame: string, reading: Reading, ask: () => Answered<Seen>): Seen => this.answer(questionIn(this.seen, frame, this.shelf), reading, ask);

  private answer<T extends object>(question: Learned<T>, reading: Reading, ask: () => Answered<T>): T {
    const known = question.find(reading);
    if (known !== undefined) return known;
    this.asked = new Set();
    const { answer, reads } = ask();
    this.reads.set(answer, question.add(reading, reads, answer));
    this.known.set(answer, this.slots.columns.length);
    this.questions.set(answer, question);
    for (const scene of this.asked) {
      const questions = this.about.get(scene);
      if (questions) questions.add(question);
      else this.about.set(scene, new Set<Question>([question]));
    }
    return answer;
  }
}

/** An answer, with what was read of the run for it. */
interface Answered<T> {
  readonly answer: T;
  readonly reads: Iterable<SlotName>;
}

function questionIn<T>(questions: Map<string, Learned<T>>, frame: string, shelf: Shelf): Learned<T> {
  let question = questions.get(frame);
  if (!question) questions.set(frame, (question = new Learned(shelf)));
  return question;
}
