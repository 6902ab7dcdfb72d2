import type { ExportKind, ReportKind } from '@zany/core';
import type { DrawWish } from '@zany/player/pictures';
import type { Deed } from './rights';

/** Long work that the server does for somebody: begun, looked at, stopped, and its file fetched when it is there. */
export type ErrandWish =
  | { readonly kind: 'export'; readonly to: ExportKind }
  /** The piece is walked, and what was found is written. */
  | { readonly kind: 'walk'; readonly as: ReportKind }
  /** One version with another, or with the latest, as they are written and by what they do. */
  | { readonly kind: 'compare'; readonly before: number; readonly after: number | null }
  /** Frames, a timeline or a kept walk as pictures, a document or a film. */
  | { readonly kind: 'draw'; readonly draw: DrawWish }
  /** The shortest ways to what the tasks of a review link ask for. */
  | { readonly kind: 'shortest'; readonly link: string };

export type ErrandKind = ErrandWish['kind'];

/** The same that is about no piece yet: a package of this name is brought in as one. */
export interface BringInWish {
  readonly kind: 'bring in';
  readonly file: string;
}

/** What one has to be let to have each done. */
export const errandDeeds: Readonly<Record<ErrandKind, Deed>> = {
  export: 'hand over',
  walk: 'hand over',
  draw: 'hand over',
  compare: 'see versions',
  shortest: 'see links',
};

/** How an errand stands. `waiting` and `at work` are not ended yet. */
export type ErrandState = 'waiting' | 'at work' | 'done' | 'failed' | 'stopped';

export interface Errand {
  readonly id: string;
  readonly wish: ErrandWish | BringInWish;
  /** The revision of the piece that it is about; 0 where it is about none. */
  readonly revision: number;
  readonly state: ErrandState;
  /** How far it has come, in words; null where nothing was said yet. */
  readonly said: string | null;
  /** Why it failed; null where it did not. */
  readonly problem: string | null;
  /** What there is to fetch when it is done. */
  readonly file: { readonly name: string; readonly size: number } | null;
  /** What of the piece is not in it, each by name. */
  readonly leftOut: readonly string[];
  /** The piece that came of it, where one does. */
  readonly made: string | null;
  /** ISO 8601. */
  readonly begun: string;
}

export const isUnderWay = ({ state }: Pick<Errand, 'state'>): boolean => state === 'waiting' || state === 'at work';
