import {
  apply,
  compile,
  framesOf,
  isInside,
  pathText,
  pieceFromTrusted,
  pieceToJson,
  posed,
  rebase,
  startFrame,
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
  type Touched,
  type Variants,
} from '@zany/core';
import type { FollowedBatch, OpenedPiece, Person, Role } from '$lib/shared/types';
import { Auditor, type AuditAnswer } from './audit';
import { ask } from './api';
import { followPiece } from './follow';
import { newId } from './ids';
import { Presences } from './presence.svelte';
import { Rest } from './rest';
import { SaveQueue, type SaveState } from './saving';
import { keepHistory, keptBatches, keptHistory, tidyHistories, type HistoryEntry } from './store';

export interface Notice {
  readonly id: number;
  readonly text: string;
  readonly action?: { readonly label: string; readonly run: () => void };
}

const MOST_HISTORY = 300;
/** How soon `calm` follows. */
const CALM = { rest: 120, longest: 1000 };
const NO_FINDINGS: readonly Finding[] = [];

/**
 * One open piece: what is confirmed by the server, what is pending, what is shown, what is selected, and what can be
 * undone. Components show it and ask it; they hold no rules of their own.
 */
export class EditorSession {
  readonly id: string;
  readonly person: Person;
  readonly role: Role;

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
  /** The look that is edited, of the layer named; rest is the layers themselves. */
  look: LookName | 'rest' = $state('rest');
  lookLayer: string | null = $state(null);
  /** A look that is only tried: it is seen on the stage as long as it is pointed at. */
  triedLook: { readonly layer: string; readonly name: LookName | 'rest' } | null = $state.raw(null);
  /** The state of the open scene that is looked at and edited; null where it has none. */
  stateId: string | null = $state(null);
  /** What edits touch: the variant that is open, all of them, or those named; `follow` where others go along. */
  reach: Reach | null = $state.raw(null);
  /** Scenes that were gone into from others, the outermost first. */
  trail: readonly string[] = $state.raw([]);
  saveState: SaveState = $state('saved');
  waiting = $state(0);
  undoNames: readonly string[] = $state.raw([]);
  redoNames: readonly string[] = $state.raw([]);
  audit: AuditAnswer | null = $state.raw(null);
  auditIsCurrent = $state(false);
  notices: readonly Notice[] = $state.raw([]);
  trying = $state(false);
  /** Accounts of what happened while trying or walking, the latest first. */
  ledger: readonly Report[] = $state.raw([]);
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
  /** The panel that lies over the stage. */
  panel: 'pair up' | 'repeat' | 'slides' | 'starter parts' | null = $state(null);

  /** Who else is here, where, and what they have selected. */
  readonly presences: Presences;

  private confirmed!: Piece;
  private revision = 0;
  private pending: Batch[] = [];
  /** The same as `plain`, but no state: an effect that ends a preview would read what it was before the edit. */
  private real!: Program;
  private undoStack: HistoryEntry[] = [];
  private redoStack: HistoryEntry[] = [];
  private readonly queue: SaveQueue;
  private readonly auditor: Auditor;
  private readonly padTakers = new Set<(button: number) => void>();
  private unfollow: () => void = () => undefined;
  private readonly seen = new WeakMap<Program, { key: string; posed: Program }>();
  private noticeCount = 0;
  private readonly calming = new Rest(CALM, () => (this.calm = this.program));
  private keepingHistory = false;
  private historyIsBehind = false;

  private constructor(id: string, person: Person, role: Role) {
    this.id = id;
    this.person = person;
    this.role = role;
    this.presences = new Presences(id);
    this.queue = new SaveQueue(id, {
      changed: (state, waiting) => {
        this.saveState = state;
        this.waiting = waiting;
      },
      refused: (batch, why) => this.dropRefused(batch, `${why.sentence}${why.path.length ? ` (${pathText(why.path)})` : ''}`),
    });
    this.auditor = new Auditor((answer, isCurrent) => {
      this.audit = answer;
      this.auditIsCurrent = isCurrent;
    });
  }

  /** Opens a piece: first sends what an earlier visit could not, then fetches the piece and follows it from there. */
  static async open(id: string, person: Person, role: Role): Promise<EditorSession> {
    const session = new EditorSession(id, person, role);
    const left = await keptBatches(id).catch(() => []);
    const answer = await session.fetchPiece(left);
    session.begin(answer, left);
    const history = await keptHistory(id).catch(() => ({ undo: [], redo: [] }));
    session.undoStack = history.undo;
    session.redoStack = history.redo;
    session.tellHistory();
    void tidyHistories().catch(() => undefined);
    return session;
  }

  private async fetchPiece(left: readonly Batch[]): Promise<OpenedPiece> {
    if (left.length && this.role !== 'reviewer') await ask('POST', `/api/pieces/${this.id}/batches`, { batches: left });
    const answer = await ask<OpenedPiece>('GET', `/api/pieces/${this.id}`);
    if (!answer.ok) throw new Error(answer.error.sentence);
    return answer.value;
  }

  private begin(opened: OpenedPiece, left: readonly Batch[]): void {
    this.confirmed = pieceFromTrusted(opened.piece);
    this.revision = opened.revision;
    this.show(compile(this.confirmed));
    this.auditor.load(opened.piece);
    // Sent already above; sending them again is how the queue learns what became of them.
    this.queue.resume(left);
    this.followServer();
    this.openScene(startFrame(this.program));
  }

  private followServer(): void {
    this.unfollow = followPiece(this.id, this.revision, {
      batch: (news) => this.receive(news),
      pad: (button) => this.padTakers.forEach((take) => take(button)),
      presence: (presence) => this.presences.take(presence),
    });
  }

  /** Calls back with each press on the pad that comes from outside; gives a function that ends it. */
  onPad = (take: (button: number) => void): (() => void) => {
    this.padTakers.add(take);
    return () => this.padTakers.delete(take);
  };

  close(): void {
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
    return (this.sceneId !== null && this.asSeen(this.program).scenes.get(this.sceneId)) || null;
  }

  /** The look that is edited now, of which layer. */
  get openLook(): { layer: string; name: LookName } | null {
    return this.look === 'rest' || this.lookLayer === null ? null : { layer: this.lookLayer, name: this.look };
  }

  /** The first state is the layers themselves. */
  get isFirstState(): boolean {
    const scene = this.sceneId === null ? undefined : this.piece.scenes.get(this.sceneId);
    return this.stateId === null || !scene || statesOf(scene)[0]?.id === this.stateId;
  }

  /** What an edit reaches just now, and of which variants; null where there is nothing to choose. */
  get reaching(): { variants: Variants; reach: Reach } | null {
    const { openLook, sceneId, stateId } = this;
    if (this.lookLayer !== null && (openLook !== null || this.reach !== null))
      return { variants: { of: 'looks', layer: this.lookLayer }, reach: this.reach ?? { how: 'some', of: [this.look] } };
    if (sceneId === null || stateId === null) return null;
    const reach: Reach = this.reach ?? (this.isFirstState ? { how: 'follow' } : { how: 'some', of: [stateId] });
    return { variants: { of: 'states', scene: sceneId }, reach };
  }

  private asSeen(program: Program): Program {
    const { sceneId, openLook } = this;
    if (sceneId === null) return program;
    const state = this.isFirstState ? null : this.stateId;
    const key = `${sceneId} ${state} ${openLook?.layer} ${openLook?.name}`;
    const known = this.seen.get(program);
    if (known?.key === key) return known.posed;
    const made = { key, posed: posed(program, { scene: sceneId, state, look: openLook }) };
    this.seen.set(program, made);
    return made.posed;
  }

  private reached(operations: readonly Operation[]): readonly Operation[] {
    const { reaching } = this;
    return reaching ? withReach(this.real.piece, reaching.variants, reaching.reach, operations) : operations;
  }

  get canEdit(): boolean {
    return this.role !== 'reviewer';
  }

  get findings(): readonly Finding[] {
    return this.audit?.findings ?? [];
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
    if (this.sceneId !== id) this.selection = [];
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
    return (scene && (scene.initial ?? statesOf(scene)[0]?.id)) ?? null;
  }

  openState(id: string | null): void {
    this.stateId = id;
    this.rest();
  }

  /** Opens a look of a layer for editing; what is selected may be inside that layer. */
  openLookOf(layer: string, look: LookName | 'rest'): void {
    this.look = look;
    this.lookLayer = layer;
    this.reach = null;
  }

  private rest(): void {
    this.look = 'rest';
    this.lookLayer = null;
    this.reach = null;
  }

  select(ids: readonly string[]): void {
    this.selection = ids;
    if (this.lookLayer !== null && !(ids.length > 0 && ids.every((id) => isInside(this.piece, id, this.lookLayer!)))) this.rest();
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
    const inverse = this.commit(name, reached);
    if (!inverse) return false;
    this.undoStack.push({ name, undo: inverse, redo: reached });
    if (this.undoStack.length > MOST_HISTORY) this.undoStack.shift();
    this.redoStack = [];
    this.tellHistory();
    return true;
  }

  /** Shows operations without making them: a drag under way. Null ends it. */
  preview(operations: readonly Operation[] | null): void {
    if (operations === null || operations.length === 0) {
      if (this.program === this.real) return;
      this.program = this.real;
      this.calming.stir();
      return;
    }
    const applied = apply(this.real.piece, this.reached(operations));
    if (!applied.ok) return;
    this.program = update(this.real, applied.value.piece, applied.value.touched);
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
    this.notices = [...this.notices.slice(-3), notice];
    setTimeout(() => this.dismiss(notice.id), ms);
  }

  /** Says why files were refused, long enough to read it file by file. */
  refuse(problems: readonly string[]): void {
    for (const problem of problems) this.notify(problem, undefined, 30_000);
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

  addReports(reports: readonly Report[]): void {
    const telling = reports.filter((report) => report.fired.length > 0 || report.whyNot.length > 0);
    if (telling.length) this.ledger = [...[...telling].reverse(), ...this.ledger].slice(0, 200);
  }

  private turn(from: HistoryEntry[], to: HistoryEntry[], which: 'undo' | 'redo', word: string): void {
    this.preview(null);
    const entry = from.pop();
    if (!entry || !this.canEdit) return;
    const inverse = this.commit(`${word}: ${entry.name}`.slice(0, 120), entry[which]);
    if (inverse) to.push(which === 'undo' ? { ...entry, redo: inverse } : { ...entry, undo: inverse });
    else this.notify(`“${entry.name}” cannot be ${which === 'undo' ? 'undone' : 'done again'}: somebody has changed the same thing since.`);
    this.tellHistory();
  }

  private commit(name: string, operations: Operation[]): Operation[] | null {
    const applied = apply(this.real.piece, operations);
    if (!applied.ok) {
      this.notify(applied.error.sentence);
      return null;
    }
    const batch: Batch = { id: newId(), name, operations };
    this.pending.push(batch);
    this.show(update(this.real, applied.value.piece, applied.value.touched));
    this.auditor.edit(operations);
    this.auditIsCurrent = false;
    this.queue.add(batch);
    return applied.value.inverse;
  }

  /** A batch that the server has confirmed, this browser's own ones included. */
  private receive(news: FollowedBatch): void {
    if (news.revision <= this.revision) return;
    if (news.revision !== this.revision + 1) return void this.reload();
    const applied = apply(this.confirmed, news.batch.operations);
    if (!applied.ok) return void this.reload();
    this.confirmed = applied.value.piece;
    this.revision = news.revision;
    const wasFirst = this.pending[0]?.id === news.batch.id;
    const wasMine = this.pending.some((batch) => batch.id === news.batch.id);
    this.pending = this.pending.filter((batch) => batch.id !== news.batch.id);
    if (wasFirst) return;
    if (this.pending.length === 0 && !wasMine) this.follow(applied.value.piece, [applied.value.touched], news.batch.operations);
    else this.rebuild(applied.value.touched);
  }

  private follow(piece: Piece, touched: readonly Touched[], operations: readonly Operation[]): void {
    this.show(touched.reduce((program, part) => update(program, piece, part), this.real));
    this.auditor.edit(operations);
    this.auditIsCurrent = false;
  }

  /** Puts what is pending on top of a confirmed piece that has changed under it. */
  private rebuild(touched: Touched): void {
    const rebased = rebase(this.confirmed, this.pending);
    for (const { batch, fault } of rebased.dropped) this.notify(`“${batch.name}” could not be kept: ${fault.sentence}`);
    const touchedNow = [touched, ...rebased.touched];
    this.pending = rebased.kept;
    this.show(
      rebased.dropped.length ? compile(rebased.piece) : touchedNow.reduce((program, part) => update(program, rebased.piece, part), this.real)
    );
    this.auditor.load(pieceToJson(rebased.piece));
    this.auditIsCurrent = false;
  }

  private dropRefused(batch: Batch, why: string): void {
    if (!this.pending.some((pending) => pending.id === batch.id)) return;
    this.notify(`“${batch.name}” could not be saved: ${why}`);
    this.pending = this.pending.filter((pending) => pending.id !== batch.id);
    const rebased = rebase(this.confirmed, this.pending);
    this.pending = rebased.kept;
    this.show(compile(rebased.piece));
    this.auditor.load(pieceToJson(rebased.piece));
  }

  /** Something was missed: fetches the piece and puts what is pending on top of it. */
  private async reload(): Promise<void> {
    const answer = await ask<OpenedPiece>('GET', `/api/pieces/${this.id}`);
    if (!answer.ok || answer.value.revision < this.revision) return;
    this.confirmed = pieceFromTrusted(answer.value.piece);
    this.revision = answer.value.revision;
    const rebased = rebase(this.confirmed, this.pending);
    this.pending = rebased.kept;
    this.show(compile(rebased.piece));
    this.auditor.load(pieceToJson(rebased.piece));
    this.unfollow();
    this.followServer();
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
    if (this.lookLayer !== null && !program.piece.layers.has(this.lookLayer)) this.rest();
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
      await keepHistory(this.id, { undo: this.undoStack.slice(-60), redo: this.redoStack.slice(-60) }).catch(() => undefined);
    }
    this.keepingHistory = false;
  }

  private tellHistory(): void {
    this.undoNames = this.undoStack.map((entry) => entry.name);
    this.redoNames = this.redoStack.map((entry) => entry.name);
    void this.keepHistory();
  }
}
