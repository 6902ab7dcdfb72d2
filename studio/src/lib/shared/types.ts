import type { Batch, Fault, Goal, PieceJson } from '@zany/core';
import type { LinkMay, Role } from './rights';

/** What the server and the pages say to each other. */
export type { Role };

export interface Person {
  readonly id: string;
  readonly name: string;
  readonly email: string;
}

/** Somebody who may do something to a piece. */
export interface Member {
  readonly id: string;
  readonly name: string;
  /** Empty for those who may not see it. */
  readonly email: string;
  readonly role: Role;
}

/** An invitation that nobody has taken yet. */
export interface Invitation {
  readonly id: string;
  readonly role: Role;
  /** Where it was sent to; empty where it was not sent. */
  readonly email: string;
  readonly by: string;
  readonly expires: string;
}

/** Who was let into a piece or out of it: “Ina Rask took Odd Vik out”. */
export interface DoorEntry {
  readonly at: string;
  readonly by: string;
  readonly sentence: string;
}

/** A key with which a box of buttons presses the pad of a piece. */
export interface PadKey {
  readonly id: string;
  readonly name: string;
  readonly made: string;
}

/** What a program may do with a key that somebody made for it. */
export const keyMay = { read: 'read', change: 'read and change' } as const;
export type KeyMay = keyof typeof keyMay;

/** So many days a key can be made for. */
export const KEY_DAYS = [30, 90, 365] as const;

/** A key with which a program acts for somebody. */
export interface PersonKey {
  readonly id: string;
  readonly name: string;
  readonly may: KeyMay;
  readonly made: string;
  readonly expires: string;
  /** Within an hour; null where it was never used. */
  readonly used: string | null;
}

/** What programs elsewhere can be told of, each with what it means. */
export const hookEvents = {
  saved: 'It was changed, and has rested a moment',
  'loose ends': 'It has more or fewer loose ends than before',
  commented: 'Somebody commented or answered',
  walked: 'Somebody walked it by a review link; once a minute at most for each walk',
} as const;
export type HookEvent = keyof typeof hookEvents;

/** What came of telling an address the last time. */
export interface HookAnswer {
  readonly at: string;
  /** Why it was not taken; null where it was. */
  readonly problem: string | null;
}

/** An address that is told what happens to a piece. */
export interface Hook {
  readonly id: string;
  readonly address: string;
  readonly events: readonly HookEvent[];
  readonly by: string;
  readonly answered: HookAnswer | null;
}

/** Something that the holder of a link is asked to do. */
export interface ReviewTask {
  readonly id: string;
  readonly sentence: string;
  /** The frame it begins on; null for the one that the link begins on. */
  readonly start: string | null;
  readonly goal: Goal;
}

/** What is set for a review link. */
export interface LinkWish {
  /** Whom it is for, or what. */
  readonly name: string;
  readonly may: LinkMay;
  /** The frame it begins on; null for the piece's own. */
  readonly start: string | null;
  /** The bundle whose frames are shown; null for all. */
  readonly bundle: string | null;
  /** The revision that is shown; null for the latest. */
  readonly revision: number | null;
  /** Whether a press that meets nothing lights up what can be pressed. */
  readonly hints: boolean;
  readonly tasks: readonly ReviewTask[];
  /** When it ends; null for never. */
  readonly expires: string | null;
}

export interface ReviewLink extends LinkWish {
  readonly id: string;
  readonly token: string;
  readonly by: string;
  readonly made: string;
  readonly hasPassword: boolean;
  readonly withdrawn: boolean;
  /** How many have opened it and said a name. */
  readonly holders: number;
}

/** What the page of a link knows before anybody comes in. */
export interface LinkFace {
  readonly piece: string;
  readonly by: string;
  readonly may: LinkMay;
  readonly needsPassword: boolean;
}

/** What is walked by a link. */
export interface LinkedPiece {
  readonly piece: PieceJson;
  readonly revision: number;
  /** How often it was changed which frames are shown, and where it begins. */
  readonly view: number;
  readonly hints: boolean;
  readonly tasks: readonly ReviewTask[];
}

/** What somebody did in one go, by a link; sent again with the same id while it goes on. */
export interface SentTrail {
  readonly id: string;
  readonly task: string | null;
  readonly revision: number;
  /** As in what was shown. */
  readonly view: number;
  readonly trail: unknown;
  readonly givenUp: boolean;
  /** More was done than is in it. */
  readonly isFull: boolean;
}

/** Something that was done, in short. */
export interface ResultStep {
  readonly on: string;
  readonly to: string;
  readonly met: boolean;
  /** The layer that a press which met nothing was on, and why nothing came of it; null where that is not known. */
  readonly under: string | null;
  readonly whyNot: string | null;
  /** Threads that fired, in order. */
  readonly threads: readonly string[];
  /** Where it was pressed, in px of the frame; null where it was not by a press. */
  readonly at: readonly [x: number, y: number] | null;
}

/** How one go went. */
export interface ResultTrail {
  readonly id: string;
  readonly holder: string;
  readonly task: string | null;
  readonly begun: string;
  readonly givenUp: boolean;
  readonly isFull: boolean;
  /** The frame that it began on. */
  readonly from: string;
  /** Null where it cannot be run again: what it was done in is not there any more, or it takes too long. */
  readonly steps: readonly ResultStep[] | null;
  readonly reached: { readonly steps: number; readonly ms: number } | null;
  readonly ms: number;
}

export interface ReviewResults {
  readonly holders: readonly { readonly id: string; readonly name: string; readonly came: string }[];
  readonly trails: readonly ResultTrail[];
  /** Goes that are not counted, since there are more than are looked at. */
  readonly leftOut: number;
}

/** By task: the frames of the shortest way that was found, and its steps; null where none was found. */
export type ShortestWays = Readonly<Record<string, { readonly frames: readonly string[]; readonly steps: number } | null>>;

/**
 * What a comment is about. Names are as they were, for when the thing itself is gone. `at` is the place in the box of the layer, as shares of it, or in
 * the frame in CSS px where it is about no layer.
 */
export interface CommentPlace {
  readonly scene: string;
  readonly sceneName: string;
  readonly layer: string | null;
  readonly layerName: string | null;
  /** A thread of the layer, or of the frame, and how it read. */
  readonly thread: string | null;
  readonly threadLine: string | null;
  readonly state: string | null;
  /** A frame of the timeline. */
  readonly moment: number | null;
  /** On a layer in parts of its size, else in px of the frame. */
  readonly at: readonly [x: number, y: number] | null;
  /** A region of the frame, from there on, px. */
  readonly size: readonly [width: number, height: number] | null;
}

/** A frame as a whole. */
export const wholeFrame = (scene: string, sceneName: string): CommentPlace => ({
  scene,
  sceneName,
  layer: null,
  layerName: null,
  thread: null,
  threadLine: null,
  state: null,
  moment: null,
  at: null,
  size: null,
});

export interface Comment {
  readonly id: string;
  readonly by: string;
  /** By whoever asks. */
  readonly isMine: boolean;
  /** By somebody who came by a link. */
  readonly isGuest: boolean;
  /** Markdown; empty where it was deleted. */
  readonly body: string;
  readonly made: string;
  readonly changed: string | null;
}

/** A comment with the answers to it. */
export interface CommentThread extends Comment {
  readonly place: CommentPlace;
  readonly resolvedBy: string | null;
  readonly answers: readonly Comment[];
  /** Something in it is by others and was not seen yet. */
  readonly isUnread: boolean;
}

export const MOST_COMMENT = 4000;

/** What the address of a picture in a comment begins with; its id follows. */
export const PICTURE = 'picture:';

/** A piece as the Workroom shows it. */
export interface PieceCard {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly updated: string;
  readonly role: Role;
  /** Null where it is not known yet. */
  readonly frames: number | null;
  /** How many loose ends were found; null where that is not known. */
  readonly looseEnds: number | null;
  /** Whether all there is was walked. */
  readonly complete: boolean;
  /** The piece has been changed since; what is said here follows. */
  readonly isBehind: boolean;
  /** Why nothing can be said of it. */
  readonly problem: string | null;
  /** The start frame alone, as a piece of one frame; null for a piece without frames. */
  readonly cover: PieceJson | null;
}

/** A piece that anybody can begin with: a copy of their own. */
export interface StarterCard {
  readonly id: string;
  readonly name: string;
  /** What there is to see in it, as a phrase. */
  readonly holds: string;
  readonly cover: PieceJson | null;
}

/** A piece as it is opened. */
export interface OpenedPiece {
  readonly piece: PieceJson;
  readonly revision: number;
  readonly role: Role;
}

/** What became of a batch that was sent. */
export type BatchResult = { readonly id: string; readonly revision: number } | { readonly id: string; readonly fault: Fault };

/** A batch as everybody who follows a piece gets it. */
export interface FollowedBatch {
  readonly piece: string;
  readonly revision: number;
  readonly by: string;
  readonly batch: Batch;
}

/** The same on the server, where operations are only passed on, as JSON. */
export interface FollowedText {
  readonly revision: number;
  readonly by: string;
  readonly id: string;
  readonly name: string;
  readonly operations: string;
}

/** A press on the pad of a piece, sent over HTTP. */
export interface PadPress {
  readonly piece: string;
  readonly button: number;
}

/** Where a window is in a piece, as it says itself. */
export interface Whereabouts {
  /** One for each window. */
  readonly client: string;
  readonly desk: 'build' | 'map' | 'walk' | 'hand-over';
  readonly scene: string | null;
  readonly selection: readonly string[];
  readonly gone: boolean;
}

/** The same as everybody else in the piece is told it. */
export interface Presence extends Whereabouts {
  readonly piece: string;
  readonly name: string;
}

/** The one shape of an error that a route answers with. */
export interface ErrorBody {
  readonly error: Fault;
}

/** A branch of a thread that a person has walked, with what the thread said then. */
export interface WalkedBranch {
  readonly thread: string;
  readonly branch: number;
  readonly line: string;
  /** Whether it did what it should, as far as the person said. */
  readonly verdict: Verdict | null;
  /** What the person said of it; empty for nothing. */
  readonly note: string;
}

export type Verdict = 'pass' | 'fail';

export const MOST_WALK_NOTE = 500;

/** The same by somebody else, by name. */
export interface WalkedByOther extends WalkedBranch {
  readonly by: string;
}

/** A version of a piece that is worth listing. */
export interface PieceVersion {
  readonly revision: number;
  /** When it came about. */
  readonly at: string;
  /** The last edit in it and who made it; null at the beginning, and for people who are gone. */
  readonly last: string | null;
  readonly by: string | null;
  /** The name it was given, and by whom. */
  readonly name: string | null;
  readonly keptBy: string | null;
  /** The edit that replaced a lot, before which it stood. */
  readonly before: string | null;
  /** Edits since the version listed before it. */
  readonly edits: number;
}

export interface PieceEdit {
  readonly revision: number;
  readonly at: string;
  readonly name: string;
  readonly by: string | null;
}
