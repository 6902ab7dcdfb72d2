import type { Program } from '../program/program.ts';
import type { Node } from '../program/node.ts';
import type { Read, SlotName } from '../run/notebook.ts';
import type { RunEvent } from '../run/state.ts';
import type { Table } from '../table.ts';
import type { Ambient } from './ambient.ts';
import { areSame } from '../same.ts';
import { boundAs, Followed, followingIn } from './followed.ts';
import { BACK, Learned, pathTo, Shelf, type Found, type Leaf, type Question } from './learned.ts';
import { areMidwayAlike } from './midway.ts';
import type { Outcome, Seen } from './outcome.ts';
import { Slots, type Looked, type Reading, type Slot } from './slots.ts';
import type { Telling } from './telling.ts';
import { Times } from './times.ts';

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
  readonly times: Times;
  readonly events: RunEvent[] = [];
  /** Events that are what waits being due: of what, by the numbers of both. */
  private readonly dues = new Map<number, number>();
  private readonly eventNumbers = new Map<string, number>();
  private readonly outcomes: Learned<Outcome>[] = [];
  private readonly possible = new Map<string, Learned<readonly number[]>>();
  private readonly seen = new Map<string, Learned<Seen>>();
  /** The questions that were answered with a scene, to be asked anew once it is another. */
  private readonly about = new Map<string, Set<Question>>();
  /** Those that were forgotten with the last edit. */
  private readonly stale = new Set<Question>();
  private asked = new Set<string>();
  watched: Program;
  /** So many answers were given so far. */
  private answers = 0;
  private readonly followed = new Map<Slot, Followed>();
  /** Whether all that followed from states does so as before the last edit. */
  isFollowedAlike = true;
  private readonly tops = new Map<string, number>([['', 0]]);
  /** Frames of which it turned out that it matters what they were come to from. */
  readonly backFrom = new Set<string>();

  constructor(
    private program: Program,
    private telling: Telling,
    private ambient: Ambient
  ) {
    this.watched = this.watch(program);
    this.slots = new Slots(
      program,
      telling,
      (slot) => this.shelf.opened(slot),
      (slot) => this.follow(slot)
    );
    this.shelf = new Shelf(() => this.slots);
    this.times = new Times(this.slots);
  }

  /** Goes on with an edited piece; false where too much of it is another. */
  goOn(program: Program, telling: Telling, ambient: Ambient): boolean {
    const old = this.program;
    const isAlike =
      old.variables === program.variables &&
      old.threads === program.threads &&
      (old.piece.head.fps ?? 24) === (program.piece.head.fps ?? 24) &&
      this.telling.words === telling.words &&
      areMidwayAlike(old, program);
    if (!isAlike) return false;
    const ids = [...new Set([...old.scenes.keys(), ...program.scenes.keys()])];
    const edited = new Set(ids.filter((id) => old.scenes.get(id) !== program.scenes.get(id)));
    const bound = this.slots.columns.filter(({ kind }) => kind === 'bound');
    const isOtherwise = (slot: Slot, as = boundAs(program, slot)) => as !== null && (as === 'follows') !== this.followed.has(slot);
    if (bound.some((slot) => isOtherwise(slot))) return false;
    for (const question of this.stale) question.isStale = false;
    this.stale.clear();
    for (const id of ids) if (edited.has(id) || this.ambient.wordsOf(id) !== ambient.wordsOf(id)) this.forgetAbout(id);
    if (old.frames !== program.frames) this.forgetAbout(ORDER);
    if (old.piece.head !== program.piece.head) this.forgetAbout(HEAD);
    this.program = program;
    this.telling = telling;
    this.ambient = ambient;
    this.watched = this.watch(program);
    this.slots.goOn(program, telling);
    this.isFollowedAlike = true;
    for (const [slot, followed] of this.followed) {
      const isAlike = followed.goOn(followingIn(program, slot.scene!).get(slot.key), (id) => edited.has(id));
      this.isFollowedAlike &&= isAlike;
    }
    return true;
  }

  /** What a slot's value follows from, where it does. */
  private follow(slot: Slot): Followed | null {
    if (slot.kind !== 'bound') return null;
    const binding = followingIn(this.program, slot.scene!).get(slot.key);
    if (!binding) return null;
    const followed = new Followed(binding, {
      shelf: this.shelf,
      runOf: (reading) => this.slots.bareRunOf(reading, []),
      numberOf: (value) => this.slots.numberOf(slot, value),
      noting: (make) => this.noting(() => make(this.watched)),
    });
    this.followed.set(slot, followed);
    return followed;
  }

  /** Whether what a binding gives follows from the state it is in. */
  follows = (name: SlotName): boolean => {
    const { scene, key } = this.slots.named(name);
    return followingIn(this.program, scene!).has(key);
  };

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

  /** What there is now of what was asked for, to be held against later. */
  ofScenes = (asked: Iterable<string>): readonly unknown[] => Array.from(asked, (id) => this.askedAs(id));

  /** Whether all that was asked for is what it was. */
  areSame(asked: Iterable<string>, of: readonly unknown[]): boolean {
    let i = 0;
    for (const id of asked) if (of[i++] !== this.askedAs(id)) return false;
    return true;
  }

  private askedAs(id: string): unknown {
    const { program } = this;
    if (id === ORDER) return program.frames;
    return id === HEAD ? program.piece.head : program.scenes.get(id);
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

  /** The columns that an answer depends on: what was read for it, and what tests were made of that came out in different ways. */
  readsOf(answer: object): readonly number[] {
    const columns = new Set<number>();
    for (const { of } of this.pathOf(answer))
      if (typeof of === 'number') columns.add(of);
      else if (of.varies) for (const column of of.columns) columns.add(column);
    return [...columns];
  }

  /** Whether an answer depends on what lies on the back stack. */
  isOfBack = (answer: object): boolean => this.pathOf(answer).some(({ of }) => of === BACK);

  /** All columns that are asked for to find an answer in a state, whatever came of that. */
  *askedIn(answer: object, reading: Reading): Iterable<number> {
    const found = foundOf(answer);
    for (const { of } of (found.path ??= pathTo(found.leaf)))
      if (typeof of === 'number') yield of;
      else yield* of.askedIn(reading);
  }

  /** The same for each layer that was looked at for its own sake, and with null for all of it together. */
  readsAbout(answer: object): ReadonlyMap<Node | null, readonly number[]> {
    const columns = new Map<Node | null, number[]>([[null, []]]);
    const add = (about: Node | null, found: Iterable<number>) => columns.set(about, [...(columns.get(about) ?? []), ...found]);
    for (const { of } of this.pathOf(answer))
      if (typeof of === 'number') add(null, [of]);
      else if (of.varies) add(of.about, of.columns);
    return columns;
  }

  /**
   * The columns that were looked at for an answer in a state, with what stood there, in order; null where it was looked at what lies on
   * the back stack, but for who knows that anyway, or at something that follows from others.
   */
  lookedAt(answer: object, reading: Reading, isTopKnown = false): readonly Looked[] | null {
    const looked: Looked[] = [];
    for (const { of } of this.pathOf(answer))
      for (const column of typeof of === 'number' ? [of] : of.askedIn(reading)) {
        if (isTopKnown && column === BACK) continue;
        if (column < 0 || this.slots.following[column]) return null;
        looked.push([column, reading.at(column)]);
      }
    return looked;
  }

  /** Something that is another number whenever something was forgotten, or there is a column more. */
  get version(): number {
    return this.shelf.forgotten + this.slots.columns.length;
  }

  /** What was read and tested for an answer, in order. */
  pathOf = (answer: object): readonly Found[] =>
    pathTo(foundOf(answer).leaf).map((found) => {
      const follows = typeof found.of === 'number' ? this.slots.columns[found.of]?.follows : null;
      return follows instanceof Followed ? { ...found, of: follows } : found;
    });

  /** Whether the same would still be answered. */
  isSo(answer: object): boolean {
    const { question, leaf } = foundOf(answer);
    return question.isSo(leaf);
  }

  /** Answers are numbered in the order in which they were given. */
  numberOf(answer: object): number {
    return foundOf(answer).number;
  }

  /** What an answer was given to. */
  questionOf = (answer: object): Question => foundOf(answer).question;

  /**
   * Whether an answer was found by looking at the same columns, in the same order, as one before: but for those that there were not then.
   * What was tested may come out otherwise elsewhere.
   */
  isReadAlike(old: object, now: object): boolean {
    const { known } = foundOf(old);
    const [was, is] = [old, now].map((one) => pathTo(foundOf(one).leaf).map(({ of }) => of)) as [Found['of'][], Found['of'][]];
    const isColumn = (of: Found['of']) => typeof of === 'number';
    return (
      was.every(isColumn) &&
      is.every(isColumn) &&
      areSame(
        was,
        is.filter((of) => (of as number) < known)
      )
    );
  }

  /** A frame on the top of a back stack as a number; 0 is none. */
  topNumber(frame: string): number {
    let number = this.tops.get(frame);
    if (number === undefined) this.tops.set(frame, (number = this.tops.size));
    return number;
  }

  /** What is due where a question is what comes of that. */
  dueOf = (question: string | number): number | undefined => (typeof question === 'number' ? this.dues.get(question) : undefined);

  /** The number of that something is due. */
  dueNumber(wait: number): number {
    const number = this.numbered(`due ${wait}`, { type: 'wait', ms: 0 });
    this.dues.set(number, wait);
    return number;
  }

  /** What takes long: answers that were asked for, and zones of time that were told apart so far. */
  get effort(): number {
    return this.answers + this.times.count;
  }

  eventNumber = (event: RunEvent): number => this.numbered(JSON.stringify(event), event);

  private numbered(key: string, event: RunEvent): number {
    let number = this.eventNumbers.get(key);
    if (number === undefined) {
      this.eventNumbers.set(key, (number = this.events.length));
      this.events.push(event);
      this.outcomes.push(new Learned(this.shelf));
    }
    return number;
  }

  /** What comes of an event in a state, where that is known. */
  knownOutcome(event: number, reading: Reading): Outcome | undefined {
    return this.outcomes[event]!.find(reading);
  }

  /** What can be done in a state, as numbers of events, where that is known. */
  knownEvents(frame: string, reading: Reading): readonly number[] | undefined {
    return this.possible.get(frame)?.find(reading);
  }

  knownSeen(frame: string, reading: Reading): Seen | undefined {
    return this.seen.get(frame)?.find(reading);
  }

  outcomeOf = (event: number, reading: Reading, ask: () => Answered<Outcome>): Outcome => this.answer(this.outcomes[event]!, reading, ask);

  eventsOf = (frame: string, reading: Reading, ask: () => Answered<readonly number[]>): readonly number[] =>
    this.answer(questionIn(this.possible, frame, this.shelf), reading, ask);

  seenIn = (frame: string, reading: Reading, ask: () => Answered<Seen>): Seen => this.answer(questionIn(this.seen, frame, this.shelf), reading, ask);

  private answer<T extends object>(question: Learned<T>, reading: Reading, ask: () => Answered<T>): T {
    const found = question.find(reading);
    if (found !== undefined) return found;
    this.asked = new Set();
    const { columns } = this.slots;
    let known = columns.length;
    let asked = ask();
    // What stands still is told by what was never other than it began: asking may have changed that.
    for (; known !== columns.length; asked = ask()) known = columns.length;
    const leaf = question.add(reading, asked.reads, asked.answer);
    const { answer } = leaf;
    (answer as Noted)[FOUND] = { question: question as Learned<unknown>, leaf, known: columns.length, number: this.answers++, path: null };
    for (const scene of this.asked) {
      const questions = this.about.get(scene);
      if (questions) questions.add(question);
      else this.about.set(scene, new Set<Question>([question]));
    }
    return answer;
  }
}

/** How an answer was found, which it carries itself: where it stands among others, and how many columns there were then. */
interface FoundBy {
  readonly question: Learned<unknown>;
  readonly leaf: Leaf<unknown>;
  readonly known: number;
  readonly number: number;
  path: readonly Found[] | null;
}

const FOUND = Symbol('found');

interface Noted {
  [FOUND]?: FoundBy;
}

const foundOf = (answer: object): FoundBy => (answer as Noted)[FOUND]!;

/** An answer, with what was read of the run for it. */
interface Answered<T> {
  readonly answer: T;
  readonly reads: Iterable<Read>;
}

function questionIn<T>(questions: Map<string, Learned<T>>, frame: string, shelf: Shelf): Learned<T> {
  let question = questions.get(frame);
  if (!question) questions.set(frame, (question = new Learned(shelf)));
  return question;
}
