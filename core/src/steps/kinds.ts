import { writeRaw } from '../lines/raw.ts';
import type { LineReader } from '../lines/reader.ts';
import { findFrame, NAME_STOPS, writeFrame, writeName, type LineScope } from '../lines/scope.ts';
import { printTransition, readTransition } from '../transitions/kinds.ts';
import { PLACES, type GoToStep, type OpenStep, type Place, type Step, type StepType, type Target } from './schemas.ts';

/** What a step is in words; what it does when it runs is in `run/steps.ts`. */
export interface StepKind<S extends Step = Step> {
  readonly do: S['do'];
  readonly label: string;
  readonly meaning: string;
  readonly fresh: S;
  /** The word a line's step begins with. */
  readonly keyword: string;
  print(step: S, scope: LineScope): string;
  /** Reads what follows the keyword. */
  read(reader: LineReader, scope: LineScope): S;
}

const go: StepKind<GoToStep> = {
  do: 'go',
  label: 'go to',
  meaning: 'another frame: by name, or next, previous, first, last, back, start',
  fresh: { do: 'go', target: { to: 'frame', frame: null }, transition: { type: 'cut' } },
  keyword: 'go to',
  print: ({ target, transition }, scope) => `go to ${printTarget(target, scope)}${printTransition(transition)}`,
  read: (reader, scope) => ({ do: 'go', target: readTarget(reader, scope), transition: readTransition(reader) }),
};

const open: StepKind<OpenStep> = {
  do: 'open',
  label: 'open a link',
  meaning: 'a web, mail or phone address, in the same or in a new tab',
  fresh: { do: 'open', address: 'https://', tab: 'new' },
  keyword: 'open',
  print: ({ address, tab }) => `open ${writeRaw(address)}${tab === 'new' ? ' in new tab' : ''}`,
  read: readOpen,
};

/** All steps by what they do. */
export const stepKinds: { readonly [T in StepType]: StepKind<Extract<Step, { do: T }>> } = { go, open };

export const stepKind = (type: StepType): StepKind => stepKinds[type] as StepKind;

export const printTarget = (target: Target, scope: LineScope): string => (target.to === 'frame' ? writeFrame(scope, target.frame) : target.to);

/** A place word, a frame's name, `Name #2`, or `?` and an id for a missing one. */
export function readTarget(reader: LineReader, scope: LineScope): Target {
  const place: Place | null = reader.word(PLACES);
  if (place) return { to: place };
  if (reader.sign(['?'])) {
    const id = /^[0-9A-Za-z_-]*/.exec(reader.rest)![0];
    reader.at += id.length;
    return { to: 'frame', frame: id === '' ? null : id };
  }
  const start = reader.at;
  const whole = reader.raw(
    'the name of a frame, or next, previous, first, last, back, start',
    scope.frames.map((frame) => writeName(frame.name)),
    NAME_STOPS
  );
  const { name, ordinal } = splitOrdinal(reader, whole, start);
  const frame = findFrame(scope, name, ordinal);
  if (frame !== null) return { to: 'frame', frame };
  reader.at = start;
  return reader.fail('the name of a frame in this piece', name);
}

/** `Pay #2` names the second frame called Pay; a quoted name may have its number after the closing quote. */
function splitOrdinal(reader: LineReader, whole: string, start: number): { name: string; ordinal: number } {
  const quoted = reader.text.slice(start).trimStart().startsWith('"');
  const tail = quoted ? /^\s*#(\d{1,6})/.exec(reader.rest) : / #(\d{1,6})$/.exec(whole);
  if (!tail) return { name: whole, ordinal: 1 };
  if (quoted) reader.at += tail[0].length;
  return { name: quoted ? whole : whole.slice(0, -tail[0].length), ordinal: Number(tail[1]) };
}

function readOpen(reader: LineReader): OpenStep {
  const isQuoted = /^\s*"/.test(reader.rest);
  const text = reader.raw('an address', ['https://', 'mailto:', 'tel:']);
  const quotedTab = reader.word(['in new tab']);
  const bare = isQuoted ? null : / in new tab$/i.exec(text);
  return { do: 'open', address: bare ? text.slice(0, -bare[0].length).trimEnd() : text, tab: bare || quotedTab ? 'new' : 'same' };
}
