import {
  apply,
  Beside,
  compile,
  cutText,
  framesOf,
  isInside,
  listWords,
  mended,
  MOST_NAME,
  pieceFromTrusted,
  pieceToJson,
  posed,
  startFrame,
  stateAtFirst,
  statesOf,
  update,
  withReach,
  type Batch,
  type Finding,
  type LookName,
  type Operation,
  type Piece,
  type Program,
  type Reach,
  type Report,
  type RunState,
  type SceneProgram,
  type Variants,
  sectionAt,
  sectionName,
  type TimeReach,
  type Timeline,
  withReachInTime,
} from '@zany/core';
import type { CommentPlace, FollowedBatch, OpenedPiece, Person, Role } from '$lib/shared/types';
import { fewOf } from '$lib/shared/few';
import { Auditor, type AuditAnswer, type Guided, type Ways } from './audit';
import { ask, askText } from './api';
import { followPiece } from './follow';
import { LookedWith } from './looked-with.svelte';
import { newId } from './ids';
import { isMarked } from './marked';
import { Comments } from './comments.svelte';
import { Presences } from './presence.svelte';
import { Rest } from './rest';
import { entriesOf, withEntries, type Entry } from '$lib/shared/ledger-entries';
import { afterPaint } from '$lib/shared/paint';
import { patienceFor, SaveQueue, type Refused, type SaveState } from './saving';
import { PersonalStore, tidyHistories, type History, type HistoryEntry, type KeptAside } from './store';
import { Sync, type Change } from './sync';

const fetchPiece = (id: string) => ask<OpenedPiece>('GET', `/api/pieces/${id}`);

export interface Notice {
  readonly id: number;
  readonly text: string;
  readonly action?: { readonly label: string; readonly run: () => void };
}

const MOST_HISTORY = 300;
/** A server that tells nothing is asked again after this many milliseconds. */
const LOST_RETRY = 8000;
/** States by which exploring goes on. */
const FURTHER = 10_000;
/** How soon `calm` follows. */
const CALM = { rest: 120, longest: 1000 };
const NO_FINDINGS: readonly Finding[] = [];

const isInTime = (operation: Operation) => operation.op === 'set' && operation.table === 'scenes' && operation.path[0] === 'timeline';

/**
 * One open piece: what is confirmed by the server, what is pending, what is shown, what is selected, and what can be
 * undone. Components show it and ask it; they hold no rules of their own.
 */
export class EditorSession {
  readonly id: string;
  readonly person: Person;
  /** What the person may do with the piece: others can change that while it is open. */
  role: Role = $state('reviewer');

  /** What is shown: the piece with all pending edits, and a drag that is not finished. */
  program: Program = $state.raw(null as unknown as Program);
  /** The same without what a preview shows, for what is not to be worked out anew while something is dragged. */
  plain: Program = $state.raw(null as unknown as Program);
  /** The program as it was when it last rested a moment: for pictures beside the work, which need not follow every step of it. */
  calm: Program = $state.raw(null as unknown as Program);
  sceneId: string | null = $state(null);
  selection: readonly string[] = $state.raw([]);
  /** Frames chosen in the shelf or on the map; the open one is always among them. */
  frameSelection: readonly string[] = $state.raw([]);
  /** Groups of which the cue sheet shows nothing inside. */
  foldedGroups: ReadonlySet<string> = $state.raw(new Set());
  /** The look that is edited, of the layers named; rest is the layers themselves. */
  look: LookName | 'rest' = $state('rest');
  lookLayers: readonly string[] = $state.raw([]);
  /** What variables are while the open scene is looked at. */
  readonly lookedWith = new LookedWith();
  /** A look that is only tried: it is seen on the stage as long as it is pointed at. */
  triedLook: { readonly layers: readonly string[]; readonly name: LookName | 'rest' } | null = $state.raw(null);
  /** The state of the open scene that is looked at and edited; null where it has none. */
  stateId: string | null = $state(null);
  /** What edits touch: the variant that is open, all of them, or those named; `follow` where others go along. */
  reach: Reach | null = $state.raw(null);
  /** Where the playhead of the open scene stands, in timeline frames from 0. */
  private playhead = $state(0);
  /** The time of the open scene; the same as long as nobody changes it. */
  readonly timeline: Timeline | null = $derived((this.sceneId !== null && this.program?.piece.scenes.get(this.sceneId)?.timeline) || null);
  /** The moment that the open scene is looked at; null where it has no time. */
  readonly moment: number | null = $derived(this.timeline && Math.min(this.playhead, this.timeline.length - 1));
  /** Which moments edits touch; null for what is usual there. */
  timeReach: TimeReach | null = $state.raw(null);
  /** Something is pulled along the seam, and what is shown changes with every frame. */
  rushes = $state(false);
  /** Something is pulled over the stage: what only says where layers are waits until it is let go. */
  isPulled = $state(false);
  /** The seam plays: the moment moves on by the clock. */
  playing = $state(false);
  /** So many fainter pictures of the moments before and after, so many timeline frames apart; null for none. */
  onion: { readonly count: number; readonly apart: number } | null = $state.raw(null);
  /** Scenes that were gone into from others, the outermost first. */
  trail: readonly string[] = $state.raw([]);
  saveState: SaveState = $state('saved');
  waiting = $state(0);
  /** Whether the browser keeps edits over a closed window. */
  keeps = $state(true);
  /** Edits that the server cannot take, kept here until somebody decides. */
  aside: readonly KeptAside[] = $state.raw([]);
  undoNames: readonly string[] = $state.raw([]);
  redoNames: readonly string[] = $state.raw([]);
  audit: AuditAnswer | null = $state.raw(null);
  /** It speaks of the piece as it is now. */
  auditIsCurrent = $state(false);
  /** It has come as far as it was to come. */
  auditIsDone = $state(false);
  notices: readonly Notice[] = $state.raw([]);
  trying = $state(false);
  /** Accounts of what happened while trying or walking, the latest first. */
  ledger: readonly Entry[] = $state.raw([]);
  run: RunState | null = $state.raw(null);
  /** Layers lit up because something that leads from them is pointed at elsewhere. */
  lit: readonly string[] = $state.raw([]);
  /** The thread whose landing is pointed at or picked. */
  litThread: string | null = $state(null);
  /** The layer whose thread line is being written. */
  writing: string | null = $state(null);
  /** Threads that were pasted: what they still have in common with others is marked until it is changed, or said to be right. */
  pasted: ReadonlySet<string> = $state.raw(new Set());
  /** The layer whose name is being written. */
  renaming: string | null = $state(null);
  /** What the strip shows because somebody asked for it; else it follows what is selected. */
  strip: 'looks' | 'states' | 'time' | null = $state(null);
  /** The seam was asked for by the keyboard, which comes to it. */
  timeAsked = $state(false);
  /** The panel that was asked for, beside the stage. */
  panel:
    | 'pair up'
    | 'repeat'
    | 'slides'
    | 'starter parts'
    | 'find'
    | 'behaves'
    | 'more'
    | 'rows'
    | 'twins'
    | 'in place'
    | 'section'
    | 'comments'
    | null = $state(null);

  /** The same as far as there is something for it. */
  get shownPanel(): EditorSession['panel'] {
    const { panel, selection } = this;
    const isIdle =
      (['pair up', 'behaves', 'more', 'twins'].includes(panel ?? '') && selection.length === 0) ||
      (['repeat', 'in place'].includes(panel ?? '') && selection.length !== 1);
    return isIdle ? null : panel;
  }

  /** Who else is here, where, and what they have selected. */
  readonly presences: Presences;
  readonly comments: Comments;

  private sync!: Sync;
  /** The same as `plain`, but no state: an effect that ends a preview would read what it was before the edit. */
  private real!: Program;
  private undoStack: HistoryEntry[] = [];
  private redoStack: HistoryEntry[] = [];
  private readonly store: PersonalStore;
  private readonly queue: SaveQueue;
  /** Why the server tells nothing any more, where it said so. */
  private lost: 'signed-out' | 'not-found' | null = null;
  private readonly auditor: Auditor;
  private readonly padTakers = new Set<(button: number) => void>();
  private unfollow: () => void = () => undefined;
  private readonly seen = new Beside<Program, { key: string; posed: Program }>();
  private noticeCount = 0;
  private closed = false;
  private again: ReturnType<typeof setTimeout> | undefined;
  private readonly calming = new Rest(CALM, () => (this.calm = this.program));
  private keepingHistory = false;
  private historyIsBehind = false;

  private constructor(id: string, person: Person, role: Role) {
    this.id = id;
    this.person = person;
    this.role = role;
    this.presences = new Presences(id);
    this.comments = new Comments(`/api/pieces/${id}/comments`);
    this.store = new PersonalStore(person.id, id);
    this.queue = new SaveQueue(
      {
        send: (body) => askText('POST', `/api/pieces/${id}/batches`, body, patienceFor(body)),
        keep: (batch) => this.store.keep(batch),
        forget: (ids) => this.store.forget(ids),
        setAside: (refused) => this.store.setAside(refused),
        soon: (work) => void afterPaint(work),
        later: (ms, work) => {
          const timer = setTimeout(work, ms);
          return () => clearTimeout(timer);
        },
      },
      {
        changed: (state, waiting) => this.tellSaving(state, waiting),
        saved: (saved) => this.change(this.sync.saved(saved)),
        refused: (refused) => void this.tellRefused(refused),
        keeping: (works) => (this.keeps = works),
      }
    );
    addEventListener('online', this.queue.retry);
    addEventListener('focus', this.queue.retry);
    addEventListener('beforeunload', this.warn);
    addEventListener('pagehide', this.leave);
    this.auditor = new Auditor((answer, isCurrent) => {
      this.audit = answer;
      this.auditIsCurrent = isCurrent;
      this.auditIsDone = isCurrent && answer.isDone;
    });
  }

  /** Opens a piece, puts what an earlier visit could not send on top, and follows it from there. */
  static async open(id: string, person: Person, role: Role): Promise<EditorSession> {
    const session = new EditorSession(id, person, role);
    const [opened, keeps, left] = await Promise.all([fetchPiece(id), session.store.works(), session.store.waiting().catch(() => [])]);
    if (!opened.ok) throw new Error(opened.error.sentence);
    session.keeps = keeps;
    session.begin(opened.value, left);
    const history = await session.store.history().catch(() => ({ undo: [], redo: [] }));
    session.undoStack = history.undo;
    session.redoStack = history.redo;
    session.tellHistory();
    void session.lookAside();
    void tidyHistories().catch(() => undefined);
    return session;
  }

  /** The revision that the server has, as far as is known here. */
  get savedRevision(): number {
    return this.sync.revision;
  }

  /** Waits until everything is saved, so that what is handed over is what is on the screen; false where that takes too long. */
  async whenSaved(): Promise<boolean> {
    for (let i = 0; i < 50 && this.saveState !== 'saved'; i++) await new Promise((resolve) => setTimeout(resolve, 100));
    return this.saveState === 'saved';
  }

  private begin(opened: OpenedPiece, left: readonly Batch[]): void {
    this.sync = new Sync(pieceFromTrusted(opened.piece), opened.revision);
    // Who may only look sees the piece as it is; what he has made before is held.
    const change = this.canEdit && left.length ? this.sync.resume(left) : null;
    this.show(compile(this.sync.shown));
    this.auditor.load(change ? pieceToJson(change.piece) : opened.piece);
    this.queue.resume(left);
    this.followServer();
    this.openScene(startFrame(this.program));
  }

  private followServer(): void {
    this.unfollow();
    void this.comments.read();
    this.unfollow = followPiece(this.id, this.sync.revision, {
      batch: (news) => this.receive(news),
      pad: (button) => this.padTakers.forEach((take) => take(button)),
      presence: (presence) => this.presences.take(presence),
      comments: () => void this.comments.read(),
      behind: () => void this.reload(),
      lost: (why) => this.lose(why),
    });
  }

  /** The server tells nothing any more. What changed that may pass: it is asked again now and then. */
  private lose(why: 'signed-out' | 'not-found'): void {
    if (this.closed) return;
    this.lost = why;
    this.tellSaving(this.saveState, this.waiting);
    clearTimeout(this.again);
    this.again = setTimeout(() => void this.reload(), LOST_RETRY);
  }

  private tellSaving(state: SaveState, waiting: number): void {
    this.saveState = this.lost !== null && (state === 'saved' || state === 'saving' || state === this.lost) ? this.lost : state;
    this.waiting = waiting;
  }

  /** Leaving with edits that are nowhere but in this window is asked about. */
  private readonly warn = (event: BeforeUnloadEvent): void => {
    if (!this.keeps && this.waiting > 0) event.preventDefault();
  };

  /** What is on its way into the browser's database when the window goes is kept beside it. */
  private readonly leave = (): void => this.store.leave(this.queue.nowhere, this.keepingHistory ? this.history : null);

  /** Calls back with each press on the pad that comes from outside; gives a function that ends it. */
  onPad = (take: (button: number) => void): (() => void) => {
    this.padTakers.add(take);
    return () => this.padTakers.delete(take);
  };

  close(): void {
    this.closed = true;
    clearTimeout(this.again);
    removeEventListener('online', this.queue.retry);
    removeEventListener('focus', this.queue.retry);
    removeEventListener('beforeunload', this.warn);
    removeEventListener('pagehide', this.leave);
    this.calming.stop();
    this.unfollow();
    this.presences.stop();
    this.queue.stop();
    this.auditor.stop();
  }

  get piece(): Piece {
    return this.program.piece;
  }

  /** The open scene as it is looked at: in its state, and with a layer in the look that is edited. */
  get scene(): SceneProgram | null {
    return (this.sceneId !== null && this.asSeen(this.program, this.marked).scenes.get(this.sceneId)) || null;
  }

  /** The open scene as it is looked at, without what is pulled just now. */
  get sceneToRead(): SceneProgram | null {
    return this.isPulled && this.sceneId !== null ? (this.settled.scenes.get(this.sceneId) ?? null) : this.scene;
  }

  /** The open scene whatever state, look or moment is looked at: the same while only those change. */
  get sceneAtRest(): SceneProgram | null {
    return (this.sceneId !== null && this.program.scenes.get(this.sceneId)) || null;
  }

  /** The look that is edited now, of which layers. */
  get openLook(): { readonly layers: readonly string[]; readonly name: LookName } | null {
    return this.look === 'rest' || this.lookLayers.length === 0 ? null : { layers: this.lookLayers, name: this.look };
  }

  /** The piece as the open scene is looked at. */
  get seenProgram(): Program {
    return this.asSeen(this.program);
  }

  standAt(frame: number): void {
    this.playhead = Math.max(0, Math.round(frame));
  }

  /** The first state is the layers themselves. */
  get isFirstState(): boolean {
    const scene = this.sceneId === null ? undefined : this.piece.scenes.get(this.sceneId);
    return this.stateId === null || !scene || statesOf(scene)[0]?.id === this.stateId;
  }

  /** What an edit reaches just now, and of which variants; null where there is nothing to choose. */
  get reaching(): { variants: readonly Variants[]; reach: Reach } | null {
    const { openLook, sceneId, stateId, lookLayers } = this;
    if (lookLayers.length && (openLook !== null || this.reach !== null))
      return { variants: lookLayers.map((layer) => ({ of: 'looks', layer })), reach: this.reach ?? { how: 'some', of: [this.look] } };
    if (sceneId === null || stateId === null) return null;
    const reach: Reach = this.reach ?? (this.isFirstState ? { how: 'follow' } : { how: 'some', of: [stateId] });
    return { variants: [{ of: 'states', scene: sceneId }], reach };
  }

  /** What the stage marks while something is pulled along, whatever else there is; null when all is looked at. */
  private get marked(): readonly string[] | null {
    return this.rushes ? [...this.selection, ...this.lit, ...this.presences.others.flatMap(({ selection }) => selection)] : null;
  }

  private asSeen(program: Program, marked: readonly string[] | null = null): Program {
    const { sceneId, openLook, moment: frame } = this;
    if (sceneId === null) return program;
    const state = this.isFirstState ? null : this.stateId;
    const key = `${sceneId} ${state} ${openLook?.layers.join()} ${openLook?.name} ${frame} ${marked?.join()}`;
    const known = this.seen.get(program);
    if (known?.key === key) return known.posed;
    const made = { key, posed: posed(program, { scene: sceneId, state, look: openLook, frame, only: marked && isMarked(program.piece, marked) }) };
    this.seen.set(program, made);
    return made.posed;
  }

  private reached(operations: readonly Operation[]): readonly Operation[] {
    const { reaching, sceneId, moment } = this;
    const reached = (reaching?.variants ?? []).reduce((all, variants) => withReach(this.real.piece, variants, reaching!.reach, all), operations);
    if (sceneId === null || moment === null || this.openLook !== null || !this.isFirstState) return reached;
    return withReachInTime(this.real.piece, sceneId, moment, this.timeReach, reached, newId);
  }

  get canEdit(): boolean {
    return this.role !== 'reviewer';
  }

  get findings(): readonly Finding[] {
    return this.audit?.findings ?? [];
  }

  /** Loose ends that somebody has set aside, and why. */
  get findingsAside(): AuditAnswer['aside'] {
    return this.audit?.aside ?? [];
  }

  /** The shortest way to each frame, as far as the walk has come. */
  ways = (): Promise<Ways | null> => this.auditor.ways();

  /** The way on for somebody who walks the piece, from where he is; branches as `thread branch`. */
  guide = (run: RunState, walked: readonly string[]): Promise<Guided> => this.auditor.guide(run, walked);

  /** What the piece does otherwise than when it was opened here; null while that is not known. */
  changes = () => this.auditor.changes();

  /** Whether all there is was walked; null while that is not known. */
  get isWhole(): boolean | null {
    return this.audit && this.auditIsDone ? this.audit.cut === null : null;
  }

  /** Explores a good deal further than it was. */
  goOnExploring(): void {
    this.auditIsDone = false;
    this.auditor.on(FURTHER);
  }

  /** The findings at a layer itself, or in its threads. */
  findingsAt(layer: string): readonly Finding[] {
    return this.byLayer.get(layer) ?? NO_FINDINGS;
  }

  private readonly byLayer = $derived.by(() => {
    const found = new Map<string, Finding[]>();
    for (const finding of this.findings) {
      const { layer } = finding.place;
      if (!layer) continue;
      const list = found.get(layer);
      if (list) list.push(finding);
      else found.set(layer, [finding]);
    }
    return found;
  });

  assetUrl = (asset: string): string => `/api/pieces/${this.id}/assets/${asset}`;

  openScene(id: string | null): void {
    if (this.sceneId !== id) {
      this.selection = [];
      this.playhead = 0;
      this.timeReach = null;
    }
    this.sceneId = id;
    this.frameSelection = id !== null && this.piece.scenes.get(id)?.use === 'frame' ? [id] : [];
    this.trail = [];
    this.stateId = this.firstShownState();
    this.rest();
    this.writing = null;
    this.renaming = null;
  }

  /** Goes into a part or a sheet from where it is seen; `leaveScene` goes back. */
  enterScene(id: string): void {
    const trail = this.sceneId === null || this.sceneId === id ? this.trail : [...this.trail, this.sceneId];
    this.openScene(id);
    this.trail = trail;
  }

  leaveScene(): void {
    const back = this.trail.at(-1);
    if (back === undefined) return;
    const trail = this.trail.slice(0, -1);
    this.openScene(back);
    this.trail = trail;
  }

  private firstShownState(): string | null {
    const scene = this.sceneId === null ? undefined : this.piece.scenes.get(this.sceneId);
    if (scene?.stateIs !== undefined) return stateAtFirst(this.lookedWith.on(this.program), scene.id);
    return (scene && (scene.initial ?? statesOf(scene)[0]?.id)) ?? null;
  }

  openState(id: string | null): void {
    this.stateId = id;
    this.rest();
  }

  /** Opens a look of layers for editing; what is selected may be inside them. */
  openLookOf(layers: readonly string[], look: LookName | 'rest'): void {
    if (look === 'rest') return this.rest();
    this.look = look;
    this.lookLayers = layers;
    this.reach = null;
  }

  private rest(): void {
    this.look = 'rest';
    this.lookLayers = [];
    this.reach = null;
  }

  select(ids: readonly string[]): void {
    // What is said of layers is put away once others are selected.
    if ((this.panel === 'behaves' || this.panel === 'more') && !ids.some((id) => this.selection.includes(id))) this.panel = null;
    this.selection = ids;
    const isIn = (id: string) => this.lookLayers.some((layer) => isInside(this.piece, id, layer));
    if (this.lookLayers.length && !(ids.length > 0 && ids.every(isIn))) this.rest();
    if (this.writing && !ids.includes(this.writing)) this.writing = null;
    if (this.renaming && !ids.includes(this.renaming)) this.renaming = null;
  }

  /**
   * Makes an edit: shown at once, kept, sent, and undone as one. False if it cannot be applied. It reaches the states or
   * looks that are chosen, unless it is a plain one: of how layers are nested, or of a whole scene.
   */
  edit(name: string, operations: readonly Operation[], reach: 'as chosen' | 'plain' = 'as chosen'): boolean {
    this.preview(null);
    if (operations.length === 0 || !this.canEdit) return false;
    const reached = reach === 'plain' ? [...operations] : [...this.reached(operations)];
    if (reached.length === 0) return true;
    const named = reach === 'plain' || !reached.some(isInTime) ? name : `${name} at ${this.momentName()}`;
    const inverse = this.commit(named, reached);
    if (!inverse) return false;
    this.undoStack.push({ name: named, undo: inverse, redo: reached });
    if (this.undoStack.length > MOST_HISTORY) this.undoStack.shift();
    this.redoStack = [];
    this.tellHistory();
    return true;
  }

  /** `Flood 14`: the section, and the frame in it. */
  private momentName(): string {
    const { timeline, moment } = this;
    if (!timeline || moment === null) return '';
    const section = sectionAt(timeline, moment);
    return `${section?.label ? `${sectionName(timeline, section)} ` : ''}${moment - (section?.from ?? 0) + 1}`;
  }

  /** Shows operations without making them: a drag under way. Null ends it. */
  preview(operations: readonly Operation[] | null, reach: 'as chosen' | 'plain' = 'as chosen'): void {
    if (operations === null || operations.length === 0) {
      if (this.program === this.real) return;
      this.program = this.real;
      this.calming.stir();
      return;
    }
    const applied = apply(this.real.piece, reach === 'plain' ? operations : this.reached(operations));
    if (!applied.ok) return;
    this.program = update(this.real, applied.value.piece, applied.value.touched);
    this.calming.stir();
  }

  /** The same for another time of the open scene, which needs no checking: it was made of the one that is there. */
  previewTimeline(timeline: Timeline | null): void {
    const { sceneId } = this;
    const scene = sceneId === null ? undefined : this.real.piece.scenes.get(sceneId);
    if (timeline === null || sceneId === null || !scene) return this.preview(null);
    const piece = { ...this.real.piece, scenes: this.real.piece.scenes.set(sceneId, { ...scene, timeline }) };
    this.program = update(this.real, piece, { scenes: new Set([sceneId]), frames: false, pieceThreads: false, variables: false });
    this.calming.stir();
  }

  /** The program without what a preview shows, with the open scene as it is looked at: what commands read places and values from. */
  get settled(): Program {
    return this.asSeen(this.real);
  }

  undo(): void {
    this.turn(this.undoStack, this.redoStack, 'undo', 'Undo');
  }

  redo(): void {
    this.turn(this.redoStack, this.undoStack, 'redo', 'Redo');
  }

  /** Says something for a while: longer where there is something to do, and for as long as is asked for. */
  notify(text: string, action?: Notice['action'], ms = action ? 9000 : 6000): void {
    const notice: Notice = { id: ++this.noticeCount, text, ...(action && { action }) };
    // What is said already is said longer, not twice.
    this.notices = [...this.notices.filter((other) => other.text !== text).slice(-3), notice];
    setTimeout(() => this.dismiss(notice.id), ms);
  }

  /** Says something of a place, and opens it; why it could not be said is told. */
  async comment(place: CommentPlace, body: string): Promise<boolean> {
    const answer = await this.comments.add(place, body);
    if (answer.ok) this.comments.open = answer.value.id;
    else this.notify(answer.error.sentence);
    return answer.ok;
  }

  /** Says what did not come in: the first few each, the others by their number. */
  refuse(problems: readonly string[]): void {
    for (const problem of fewOf(problems)) this.notify(problem, undefined, 30_000);
  }

  notePasted(threads: readonly string[]): void {
    this.pasted = new Set([...this.pasted, ...threads]);
  }

  settlePasted(thread: string): void {
    this.pasted = new Set([...this.pasted].filter((id) => id !== thread));
  }

  dismiss(id: number): void {
    this.notices = this.notices.filter((notice) => notice.id !== id);
  }

  /** What came of an event in the running piece, and the run it came to. */
  addReports(reports: readonly Report[], run: RunState): void {
    const entries = entriesOf(this.program, this.run, run, reports);
    if (entries.length) this.ledger = withEntries(this.ledger, entries);
    this.run = run;
  }

  private turn(from: HistoryEntry[], to: HistoryEntry[], which: 'undo' | 'redo', word: string): void {
    this.preview(null);
    const entry = from.pop();
    if (!entry || !this.canEdit) return;
    const inverse = this.commit(`${word}: ${entry.name}`, entry[which]);
    if (inverse) to.push(which === 'undo' ? { ...entry, redo: inverse } : { ...entry, undo: inverse });
    else this.notify(`“${entry.name}” cannot be ${which === 'undo' ? 'undone' : 'done again'}: somebody has changed the same thing since.`);
    this.tellHistory();
  }

  private commit(name: string, operations: Operation[]): Operation[] | null {
    // Names are for people: a long one is cut. What no text can keep is mended before anybody sees it.
    const batch: Batch = { id: newId(), name: cutText(mended(name), MOST_NAME, '…'), operations: mended(operations) };
    const made = this.sync.commit(batch);
    if (!made.ok) {
      this.notify(made.error.sentence);
      return null;
    }
    this.change(made.value);
    this.queue.add(batch);
    return made.value.inverse;
  }

  /** News from the server, this window's own edits included. */
  private receive(news: FollowedBatch): void {
    const received = this.sync.receive(news);
    if (received.ok) this.change(received.value);
    else void this.reload();
  }

  /** Shows what has changed, and has it walked anew. */
  private change(change: Change | null): void {
    if (!change) return;
    const { piece, touched, operations } = change;
    this.show(touched ? touched.reduce((program, part) => update(program, piece, part), this.real) : compile(piece));
    if (operations) this.auditor.edit(operations);
    else this.auditor.load(pieceToJson(piece));
    this.auditIsCurrent = false;
    this.auditIsDone = false;
  }

  private async tellRefused(refused: readonly Refused[]): Promise<void> {
    this.change(this.sync.refused(refused.map(({ batch }) => batch.id)));
    const names = [...new Set(refused.map(({ batch }) => `“${batch.name}”`))];
    const some = names.length > 3 ? [...names.slice(0, 2), `${names.length - 2} others`] : names;
    const one = refused.length === 1;
    this.notify(
      `${one ? some[0]! : `${refused.length} changes (${listWords(some)})`} could not be saved: ${refused[0]!.why.sentence} ${one ? 'It is' : 'They are'} set aside, and all else is saved.`,
      undefined,
      20_000
    );
    await this.lookAside();
    // Where the browser keeps nothing, the window is the only place left.
    if (this.aside.length === 0) this.aside = refused.map(({ batch, why }, i) => ({ key: -1 - i, batch, why, at: Date.now(), format: '' }));
  }

  private async lookAside(): Promise<void> {
    this.aside = await this.store.aside().catch(() => []);
  }

  /** Tries to make an edit that was set aside once more, as a new one on top of what is there now. */
  async retryAside({ key, batch }: KeptAside): Promise<void> {
    if (this.commit(batch.name, batch.operations) === null) return;
    await this.dropAside([key]);
  }

  async dropAside(keys: readonly number[]): Promise<void> {
    await this.store.dropAside(keys.filter((key) => key >= 0)).catch(() => undefined);
    this.aside = this.aside.filter(({ key }) => !keys.includes(key));
  }

  /** The edits that are not saved, as the text of a file. */
  unsaved(): string {
    const waiting = this.queue.batches.map((batch) => ({ batch }));
    return JSON.stringify({ piece: this.id, name: this.piece.head.name, waiting, aside: this.aside }, null, 1);
  }

  /** Something was missed: fetches the piece and puts what is pending on top of it. */
  private async reload(): Promise<void> {
    const answer = await fetchPiece(this.id);
    if (this.closed) return;
    if (!answer.ok) {
      if (answer.error.code === 'signed-out' || answer.error.code === 'not-found') this.lose(answer.error.code);
      else this.again = setTimeout(() => void this.reload(), LOST_RETRY);
      return;
    }
    this.lost = null;
    this.takeRole(answer.value.role);
    if (answer.value.revision > this.sync.revision) this.change(this.sync.reload(pieceFromTrusted(answer.value.piece), answer.value.revision));
    this.followServer();
    this.queue.retry();
  }

  private takeRole(role: Role): void {
    if (role === this.role) return;
    this.role = role;
    this.preview(null);
    this.notify(
      `Somebody made you ${role === 'reviewer' ? 'a reviewer: you can look, walk and comment' : role === 'editor' ? 'an editor: you can change the piece' : 'an owner of the piece'}.`
    );
  }

  private show(program: Program): void {
    this.real = program;
    this.plain = program;
    this.program = program;
    if (this.calm === null) this.calm = program;
    else this.calming.stir();
    if (this.sceneId !== null && !program.scenes.has(this.sceneId)) this.openScene(startFrame(program) ?? framesOf(program.piece)[0]?.id ?? null);
    else if (this.sceneId === null && program.frames.length) this.openScene(startFrame(program));
    if (this.stateId !== null || this.sceneId !== null) {
      const states = this.sceneId === null ? undefined : program.piece.scenes.get(this.sceneId)?.states;
      if (this.stateId === null || !states?.[this.stateId]) this.stateId = this.firstShownState();
    }
    if (this.lookLayers.some((layer) => !program.piece.layers.has(layer))) this.rest();
    if (this.selection.some((id) => !program.piece.layers.has(id))) this.selection = this.selection.filter((id) => program.piece.layers.has(id));
    if (this.frameSelection.some((id) => !program.scenes.has(id))) this.frameSelection = this.frameSelection.filter((id) => program.scenes.has(id));
  }

  /** Writes the history at once, so that a reload finds it; changes made while it is being written are written after it. */
  private async keepHistory(): Promise<void> {
    this.historyIsBehind = true;
    if (this.keepingHistory) return;
    this.keepingHistory = true;
    while (this.historyIsBehind) {
      this.historyIsBehind = false;
      await this.store.keepHistory(this.history).catch(() => undefined);
    }
    this.keepingHistory = false;
  }

  /** As much of what can be undone as outlives a reload. */
  private get history(): History {
    return { undo: this.undoStack.slice(-60), redo: this.redoStack.slice(-60) };
  }

  private tellHistory(): void {
    this.undoNames = this.undoStack.map((entry) => entry.name);
    this.redoNames = this.redoStack.map((entry) => entry.name);
    void this.keepHistory();
  }
}
