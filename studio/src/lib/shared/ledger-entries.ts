import { changesBetween, valueWords, type CueType, type Piece, type Program, type Report, type RunState } from '@zany/core';

/** One line of the ledger: what came of an event, and what is different after it. */
export interface Entry extends Report {
  /** What a person or the clock did. */
  readonly headline: string;
  /** What that changed, with all that followed from it; only on the event itself. */
  readonly changes: readonly string[];
  /** The run after it. */
  readonly after: RunState;
}

/** What happened between two runs, the latest first. What says nothing is left out. */
export function entriesOf(program: Program, before: RunState | null, after: RunState, reports: readonly Report[]): Entry[] {
  const changes = before ? changesBetween(program, before, after) : [];
  const first = reports.findLastIndex((report) => report.cause === undefined);
  return reports
    .map((report, i): Entry => ({
      ...report,
      headline: headlineOf(program.piece, report),
      changes: i === Math.max(0, first) ? changes : [],
      after,
      whyNot: report.whyNot.filter(
        ({ code, sentence }) =>
          !report.fired.some(({ steps }) => steps.some((step) => step.sentence === sentence)) && !(changes.length > 0 && NOTHING_THERE.has(code))
      ),
    }))
    .filter(({ fired, whyNot, changes: changed }) => fired.length > 0 || whyNot.length > 0 || changed.length > 0)
    .reverse();
}

/** Reasons that nobody took an event: no matter where it changed something by itself, as a tick does. */
const NOTHING_THERE: ReadonlySet<string> = new Set(['not-wired', 'nothing-there', 'other-cue', 'no-thread']);

const MOST = 200;

/**
 * The ledger with new entries in front. A digit is a key and a pad button at once: what one of them did not do is no matter where
 * the other one is meant. What is typed sign by sign into a field without threads is one line, of what stands there at last.
 */
export function withEntries(ledger: readonly Entry[], entries: readonly Entry[]): Entry[] {
  const isPad = entries.some(({ event }) => event.type === 'pad');
  const [last] = ledger;
  const isIdleKey = last?.event.type === 'key' && last.fired.length === 0 && last.changes.length === 0 && /^\d$/.test(last.event.key);
  const isReplaced = (isPad && isIdleKey) || (entries.length === 1 && isTypedOn(last, entries[0]!));
  return [...entries, ...(isReplaced ? ledger.slice(1) : ledger)].slice(0, MOST);
}

/** Both are typing into one field, of which only the last matters: neither did anything else. */
const isTypedOn = (before: Entry | undefined, after: Entry): boolean =>
  before?.event.type === 'value' &&
  after.event.type === 'value' &&
  before.event.layer === after.event.layer &&
  [before, after].every(({ fired, whyNot, changes }) => fired.length === 0 && whyNot.length === 0 && changes.length === 1);

/** What was done by a pointer is told by what the thread that took it waits for. */
const byCue: Partial<Record<CueType, string>> = {
  click: 'clicked',
  'double click': 'double-clicked',
  'long press': 'held',
  press: 'pressed',
  release: 'let go of',
  hover: 'came onto',
  leave: 'left',
  'drag start': 'began to drag',
  drag: 'dragged',
  drop: 'dropped',
};

/** The name of a layer by the key of its node; null is the frame itself. */
export const nameOfNode = (piece: Piece, key: string | null): string =>
  key === null ? 'the frame' : (piece.layers.get(key.split('/').at(-1)!)?.name ?? 'a layer that is gone');

function headlineOf(piece: Piece, { event, layer: taker, cause, fired, whyNot }: Report): string {
  if (cause !== undefined) return cause;
  const named = (key: string | null) => nameOfNode(piece, key);
  // What lets the press through is still what a person meant to press.
  const layer = taker ?? ('layer' in event ? event.layer : null) ?? whyNot.find(({ code }) => code === 'not-wired')?.layer ?? null;
  const cue = fired.map(({ thread }) => piece.threads.get(thread)?.cue).find((one) => one !== undefined);
  switch (event.type) {
    case 'key':
      return `pressed ${event.key}`;
    case 'wait':
      return cue?.type === 'long press' ? `held ${named(layer)}` : 'time had passed';
    case 'beside':
      return 'pressed beside the frame laid over';
    case 'jump':
      return `jumped to ${piece.scenes.get(event.frame)?.name ?? 'a frame that is gone'}`;
    case 'pad':
      return `pressed pad button ${event.button}`;
    case 'signal':
      return `${event.signal} came in`;
    case 'scroll':
      return 'scrolled';
    case 'value':
      return `put ${valueWords(event.value)} into ${named(event.layer)}`;
    case 'set':
      return `set ${piece.variables.get(event.variable)?.name ?? 'a variable'} by hand`;
    case 'media':
      return `${named(layer)} ${event.what}`;
    case 'focus':
      return `moved the focus to ${named(event.layer)}`;
    case 'swipe':
      return `swiped ${event.direction} on ${named(layer)}`;
    case 'drag':
      return `dragged ${named(layer)}`;
    case 'long-press':
      return `held ${named(layer)}`;
    case 'hold':
      return `pressed ${named(layer)} and held it`;
    case 'let-go':
      return event.where === 'there' ? 'let go' : 'let go elsewhere';
    case 'double-click':
      return `double-clicked ${named(layer)}`;
    case 'move':
    case 'hover':
      return `${cue?.type === 'leave' ? 'left' : (cue && byCue[cue.type]) || 'came onto'} ${named(layer)}`;
    case 'leave':
      return `left ${named(layer)}`;
    default:
      return cue?.type === 'swipe' ? `swiped ${cue.direction} on ${named(layer)}` : `${(cue && byCue[cue.type]) ?? 'clicked'} ${named(layer)}`;
  }
}
