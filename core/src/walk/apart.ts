import { framesOf, type Piece } from '../piece/piece.ts';
import { startFrames, type Program } from '../program/program.ts';
import { valueOfField } from '../run/environment.ts';
import { resolveScreen, standingScreen } from '../run/resolve.ts';
import { advance, nextDeadline, replay, start } from '../run/run.ts';
import type { Advanced, Report, RunEvent, RunState } from '../run/state.ts';
import { PlainStore } from '../run/store.ts';
import { listWords } from '../words.ts';
import { Ambient } from './ambient.ts';
import { deedsIn } from './events-in.ts';
import { isHurry, THIRD_TIME } from './hurry.ts';
import { settle } from './settle.ts';
import { Slots } from './slots.ts';
import { tellingOfAllShown, type Telling } from './telling.ts';
import { waitingIn } from './waits.ts';

/**
 * Whether two pieces do the same: they do where nothing that anybody can do, one thing after the other, shows something else in one than
 * in the other. Both are run side by side, breadth first over pairs of states, so that what tells them apart is the shortest there is.
 */

export type Apart =
  | { readonly kind: 'same'; readonly pairs: number }
  /** What shows the difference, from a start on, as it is done in the first; and what is different then, a sentence each. */
  | {
      readonly kind: 'apart';
      readonly pairs: number;
      readonly from: string;
      readonly events: readonly RunEvent[];
      readonly sentences: readonly string[];
    }
  /** Nothing that was looked at tells them apart, but not all was. */
  | { readonly kind: 'not known'; readonly pairs: number; readonly why: string };

/** Pairs of states that are looked at where nobody says how many. */
export const USUAL_PAIRS = 1000;

/** So many frames that were come from tell runs apart. */
const MOST_TOLD = 2;

/** So many differences are said. */
const MOST_SAID = 5;

export function tellApart(before: Program, after: Program, most = USUAL_PAIRS): Apart {
  const [one, other] = [new Side(before, null), new Side(after, before.piece)];
  const begun = startPairs(one, other);
  if ('sentences' in begun) return { kind: 'apart', pairs: 0, ...begun };
  const queue: Pair[] = [];
  const known = new Set<string>();
  let isCut = false;
  const untried = new Set([...one.telling.untried.values(), ...other.telling.untried.values()]);
  const meet = (pair: Pair): Apart | null => {
    const key = `${one.keyOf(pair.one)} || ${other.keyOf(pair.other)}`;
    const isPassing = pair.event?.type === 'hover' || pair.event?.type === 'focus';
    // Where both were before they show what they showed then, but for what is shown under the pointer, or with the focus.
    if (known.has(key) && !isPassing && pair.opened[0] === pair.opened[1]) return null;
    if (difference(one, other, pair).length) {
      const way = wayTo(pair);
      const sentences = difference(one, other, walked(one, other, pair, way.events));
      if (sentences.length) return { kind: 'apart', pairs: queue.length, ...way, sentences };
      untried.add('what is shown only on the way');
    }
    if (known.size >= most) isCut = true;
    else if (!known.has(key)) {
      known.add(key);
      queue.push(pair);
    }
    return null;
  };
  for (const pair of begun) {
    const apart = meet(pair);
    if (apart) return apart;
  }
  // The queue grows while it is gone through.
  for (const pair of queue)
    for (const [event, its] of eventsOf(one, other, pair)) {
      const [a, b] = [one.after(pair.one, event), other.after(pair.other, its)];
      if (a.isHurried || b.isHurried) {
        untried.add(THIRD_TIME);
        continue;
      }
      const shown: Pair['shown'] = [a.shown, b.shown];
      const apart = meet({ one: a.run, other: b.run, shown, opened: [a.opened, b.opened], from: pair.from, parent: pair, event });
      if (apart) return apart;
    }
  if (one.isDeep || other.isDeep) untried.add(`ways that differ only by what was come from more than ${MOST_TOLD} steps back`);
  const whys = [...(isCut ? [`stopped at ${queue.length} pairs of states`] : []), ...(untried.size ? [`not tried: ${listWords([...untried])}`] : [])];
  return whys.length ? { kind: 'not known', pairs: queue.length, why: whys.join('; ') } : { kind: 'same', pairs: queue.length };
}

/** What both are in after the same was done. */
interface Pair {
  readonly one: RunState;
  readonly other: RunState;
  /** The same as they come of what was done, before they rest. */
  readonly shown: readonly [RunState, RunState];
  /** Addresses that were opened last, in each. */
  readonly opened: readonly [string, string];
  readonly from: string;
  readonly parent: Pair | null;
  readonly event: RunEvent | null;
}

function wayTo(pair: Pair): { readonly from: string; readonly events: readonly RunEvent[] } {
  const events: RunEvent[] = [];
  for (let at: Pair = pair; at.parent; at = at.parent) events.push(at.event!);
  return { from: pair.from, events: events.reverse() };
}

/** The same pair as it is come to by somebody who does one thing after the other. */
function walked(one: Side, other: Side, pair: Pair, events: readonly RunEvent[]): Pair {
  if (events.length === 0) return pair;
  const [a, b] = [one, other].map((side) => {
    const own = side === other ? events.map(other.here) : events;
    const begun = side.begun(side === other ? other.ownOf(pair.from) : pair.from);
    const { run } = replay(side.program, begun, own.slice(0, -1));
    return advance(side.program, run, own.at(-1)!);
  }) as [Advanced, Advanced];
  return { ...pair, shown: [a.run, b.run], opened: [openedIn(a.reports), openedIn(b.reports)] };
}

/** One of the two pieces, with what its things are called in the first. */
class Side {
  readonly telling: Telling;
  private readonly ambient: Ambient;
  private readonly slots: Slots;
  /** Ids of the first piece by those of this one, and the other way round; what is the same thing in both has one. */
  private readonly theirs = new Map<string, string>();
  private readonly own = new Map<string, string>();
  /** More was come from somewhere than is told. */
  isDeep = false;

  constructor(
    readonly program: Program,
    first: Piece | null
  ) {
    this.telling = tellingOfAllShown(program);
    this.ambient = new Ambient(program);
    this.slots = new Slots(program, this.telling, () => undefined);
    if (first) this.name(first);
  }

  /** Things of one id are one, else those that are called the same. */
  private name(first: Piece): void {
    const { piece } = this.program;
    const pair = (id: string, other: string | undefined) => {
      if (other === undefined || this.own.has(other)) return;
      this.theirs.set(id, other);
      this.own.set(other, id);
    };
    const byName = new Map([...first.scenes.values()].map(({ id, use, name }) => [`${use} ${name}`, id] as const));
    for (const { id, use, name } of piece.scenes.values()) pair(id, first.scenes.has(id) ? id : byName.get(`${use} ${name}`));
    const layers = new Map([...first.layers.values()].map(({ id, scene, name }) => [`${scene} ${name}`, id] as const));
    for (const { id, scene, name } of piece.layers.values()) pair(id, first.layers.has(id) ? id : layers.get(`${this.idOf(scene)} ${name}`));
  }

  /** A key, of a layer or in placements, as the first piece has it; unlike all of its own where it has no such. */
  idOf = (key: string): string =>
    key
      .split('/')
      .map((id) => this.theirs.get(id) ?? (this.own.has(id) ? `${id}*` : id))
      .join('/');

  ownOf = (key: string): string =>
    key
      .split('/')
      .map((id) => this.own.get(id) ?? id)
      .join('/');

  /** An event of the first piece as it is here, and one of this one as it is there. */
  here = (event: RunEvent): RunEvent => named(event, this.ownOf);
  there = (event: RunEvent): RunEvent => named(event, this.idOf);

  starts = (): readonly string[] => startFrames(this.program);

  begun(frame: string): RunState {
    return start(this.program, frame)!;
  }

  deeds(run: RunState): RunEvent[] {
    const at = this.settled(run);
    return [...deedsIn(this.program, at, standingScreen(this.program, at), this.telling)];
  }

  /** How long until something is due, ms; null where nothing is. */
  due(run: RunState): number | null {
    const due = nextDeadline(this.program, run);
    return due === null || due === Infinity ? null : Math.max(0, due - run.clock);
  }

  after(run: RunState, event: RunEvent): { readonly run: RunState; readonly shown: RunState; readonly opened: string; readonly isHurried: boolean } {
    const { run: now, reports } = advance(this.program, run, event);
    return { run: this.settled(now), shown: now, opened: openedIn(reports), isHurried: isHurry(now) };
  }

  settled(run: RunState): RunState {
    const store = new PlainStore(run);
    settle(this.program, store, this.telling, this.ambient);
    return store.run;
  }

  /** What tells a run from others, with what waits in it and for how long yet. */
  keyOf(run: RunState): string {
    const values = [...this.slots.valuesOf(run)].map(([slot, value]) => `${slot.name}=${slot.texts[value]}`).sort();
    const waits = waitingIn(this.program, run, this.ambient).map(({ wait, left }) => `${JSON.stringify(wait)} ${Math.round(left)}`);
    return [...values, ...waits.sort(), this.telling.back ? this.backOf(run).join() : ''].join(' ');
  }

  /** What was come from, as far back as anything goes from here without coming to where nothing does. */
  private backOf({ frame, back }: RunState): readonly string[] {
    const { looksBack } = this.telling;
    const path = [frame, ...back.toReversed()];
    const end = looksBack === null ? -1 : path.findIndex((one) => !looksBack.has(one));
    const told = path.slice(1, end < 0 ? path.length : end + 1);
    this.isDeep ||= told.length > MOST_TOLD;
    return told.slice(0, MOST_TOLD);
  }

  /** What is shown, in words, by what it is called in the first piece. */
  shown(run: RunState): Map<string, Shown> {
    const found = new Map<string, Shown>();
    const { surfaces } = resolveScreen(this.program, run);
    for (const { scene, all } of surfaces) {
      found.set(this.idOf(scene), { name: this.program.scenes.get(scene)!.scene.name, says: '', is: '' });
      for (const { node, text, selected, enabled, opacity } of all) {
        if (node.layer.type === 'hit' || opacity === 0) continue;
        const value = node.layer.field ? String(valueOfField(run.roots[scene]!, node) ?? '') : '';
        const is = [...(selected ? ['selected'] : []), ...(enabled ? [] : ['disabled'])].join(' and ');
        found.set(`${this.idOf(scene)} ${this.idOf(node.key)}`, { name: node.layer.name, says: text ?? value, is });
      }
    }
    return found;
  }
}

interface Shown {
  readonly name: string;
  readonly says: string;
  readonly is: string;
}

const named = (event: RunEvent, of: (key: string) => string): RunEvent => ({
  ...event,
  ...('layer' in event && event.layer !== null && { layer: of(event.layer) }),
  ...('scene' in event && event.scene !== undefined && { scene: of(event.scene) }),
});

const openedIn = (reports: readonly Report[]): string =>
  reports.flatMap(({ effects }) => effects.flatMap((effect) => (effect.type === 'open' ? effect.address : []))).join(' ');

/** The starts that both have; or that they begin elsewhere. */
function startPairs(one: Side, other: Side): Pair[] | { readonly from: string; readonly events: readonly []; readonly sentences: readonly string[] } {
  const theirs = new Map(other.starts().map((frame) => [other.idOf(frame), frame] as const));
  const mine = one.starts();
  const nameIn = ({ program }: Side, id: string) => program.piece.scenes.get(id)?.name ?? id;
  const sentences = [
    ...mine.filter((id) => !theirs.has(id)).map((id) => `Only before it can begin on ${nameIn(one, id)}.`),
    ...[...theirs].filter(([id]) => !mine.includes(id)).map(([, id]) => `Only after it can begin on ${nameIn(other, id)}.`),
  ];
  if (sentences.length) return { from: mine[0] ?? framesOf(one.program.piece)[0]?.id ?? '', events: [], sentences };
  return mine.map((from) => {
    const shown = [one.begun(from), other.begun(theirs.get(from)!)] as const;
    return { one: one.settled(shown[0]), other: other.settled(shown[1]), shown, opened: ['', ''], from, parent: null, event: null };
  });
}

/** What can be done in either, as it is done in each; and waiting until the next thing is due in either. */
function* eventsOf(one: Side, other: Side, pair: Pair): Iterable<readonly [RunEvent, RunEvent]> {
  const done = new Set<string>();
  for (const event of [...one.deeds(pair.one), ...other.deeds(pair.other).map(other.there)]) {
    const key = JSON.stringify(event);
    if (done.has(key)) continue;
    done.add(key);
    yield [event, other.here(event)];
  }
  const dues = [one.due(pair.one), other.due(pair.other)].filter((due) => due !== null);
  if (dues.length === 0) return;
  const wait: RunEvent = { type: 'wait', ms: Math.min(...dues) };
  yield [wait, wait];
}

const PLAIN = 'neither selected nor disabled';

/** What is shown otherwise in one than in the other, a sentence each. */
function difference(one: Side, other: Side, { shown, opened }: Pair): string[] {
  const [before, after] = [one.shown(shown[0]), other.shown(shown[1])];
  const said = ({ name, says }: Shown) => (says ? `${name} (“${says}”)` : name);
  const sentences: string[] = [];
  for (const [key, was] of before) {
    const is = after.get(key);
    if (!is) sentences.push(`${said(was)} is shown only before.`);
    else if (is.says !== was.says) sentences.push(`${was.name} says “${was.says}” before and “${is.says}” after.`);
    else if (is.is !== was.is) sentences.push(`${was.name} is ${was.is || PLAIN} before and ${is.is || PLAIN} after.`);
  }
  for (const [key, is] of after) if (!before.has(key)) sentences.push(`${said(is)} is shown only after.`);
  if (opened[0] !== opened[1]) sentences.push(`It opens ${opened[0] || 'nothing'} before and ${opened[1] || 'nothing'} after.`);
  return sentences.length > MOST_SAID ? [...sentences.slice(0, MOST_SAID), `And ${sentences.length - MOST_SAID} more.`] : sentences;
}
