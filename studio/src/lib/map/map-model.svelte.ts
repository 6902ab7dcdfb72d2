import { colorOf, count, groupedBy, statesOf } from '@zany/core';
import type { EditorSession } from '$lib/client/session.svelte';
import { Folded } from '$lib/shared/folded.svelte';
import { endOf, foldRibbons } from './fold';
import type { LayoutAnswer } from './layout';
import type { MapLooks } from './looks.svelte';
import type { Sheet, Strand, Tag } from './paint';
import { routeAll, type Box, type Curve } from './routes';
import type { Since } from './since.svelte';
import { isOpen as isAllSeen, looseIn, NO_SIEVE, passes, type Sieve } from './sieve';
import type { Stitch } from './stitches';
import { laidUnder } from './under';
import { around, markSigns, webOf, type Mark, type Ribbon } from './web';

/** Frames are drawn to fit into this on the map at 100 %, CSS px. */
const WIDE = 150;
const HIGH = 190;
/** Room for the name below a frame. */
export const NAME = 44;

/** What stands on the map, and how: of the piece, of what is looked for, and of what is pointed at. CSS px of the map. */
/** Presses drawn on one frame at most. */
const MOST_PRESSES = 300;

export class MapModel {
  /** Where frames stand by flow; null until that is known. */
  layout: LayoutAnswer | null = $state.raw(null);
  /** Those that are carried by hand just now, and how far. */
  carried: { readonly ids: readonly string[]; readonly dx: number; readonly dy: number } | null = $state.raw(null);
  /** Also those to frames that many lead to. */
  everyStitch = $state(false);
  sieve: Sieve = $state.raw(NO_SIEVE);
  /** So many steps around the open frame are looked for; 0 for all. */
  focusSteps = $state(0);
  hovered: string | null = $state(null);
  /** Bundles that are folded by hand. */
  readonly folded: Folded;
  /** A ribbon that is pointed at, and where in the window. */
  pointed: { readonly ribbon: Ribbon; readonly x: number; readonly y: number } | null = $state.raw(null);

  constructor(
    private readonly session: EditorSession,
    private readonly looks: MapLooks,
    private readonly since: Since
  ) {
    this.folded = new Folded(`zany-map-folded-${session.piece.head.id}`);
  }

  readonly program = $derived.by(() => this.session.calm ?? this.session.program);
  readonly web = $derived.by(() => webOf(this.session.program));
  readonly sizes = $derived.by(
    () =>
      new Map(
        this.session.program.frames.map((id) => {
          const { scene } = this.session.program.scenes.get(id)!;
          const scale = Math.min(WIDE / scene.width, HIGH / scene.height);
          return [id, { width: scene.width * scale, height: scene.height * scale, scale }] as const;
        })
      )
  );
  /** By a frame that is only laid over one other, that one. */
  private readonly under = $derived.by(() => {
    const { piece } = this.session;
    return laidUnder(this.web.stitches, piece.head.start, (id) => piece.scenes.get(id)?.bundle ?? null);
  });
  /** What the layout depends on, as one text. */
  readonly shape = $derived.by(() =>
    JSON.stringify([
      this.session.program.frames.map((id) => [
        id,
        this.sizes.get(id)!.width,
        this.sizes.get(id)!.height,
        this.session.piece.scenes.get(id)?.bundle ?? null,
      ]),
      this.web.ribbons.filter(({ isToHub }) => !isToHub).map(({ key }) => key),
      this.session.piece.head.start,
      [...this.under],
    ])
  );

  /** Where each frame stands: as it was put by hand, else as it was laid out. */
  readonly boxes = $derived.by(() => {
    const all = new Map<string, Box>();
    if (!this.layout) return all;
    for (const [id, size] of this.sizes) {
      const place = this.session.program.scenes.get(id)!.scene.onMap ?? this.layout.places.get(id);
      const by = this.carried?.ids.includes(id) ? this.carried : null;
      if (place) all.set(id, { x: place.x + (by?.dx ?? 0), y: place.y + (by?.dy ?? 0), width: size.width, height: size.height });
    }
    return all;
  });
  readonly whole = $derived.by(() => {
    let [left, top, right, bottom] = [0, 0, this.layout?.width ?? 1, this.layout?.height ?? 1];
    for (const { x, y, width, height } of this.boxes.values()) {
      left = Math.min(left, x - 40);
      top = Math.min(top, y - 40);
      right = Math.max(right, x + width + 40);
      bottom = Math.max(bottom, y + height + NAME + 20);
    }
    return { x: left, y: top, width: right - left, height: bottom - top };
  });
  readonly routes = $derived.by(() =>
    routeAll(
      foldRibbons(
        this.everyStitch ? this.web.ribbons : this.web.ribbons.filter(({ isToHub }) => !isToHub),
        (id) => this.away.get(id)?.bundle ?? null
      ),
      this.boxAt
    )
  );
  /** Where a frame, or what stands for it, is seen. */
  private readonly boxAt = (id: string): Box | null => this.away.get(id)?.box ?? this.boxes.get(id) ?? this.folds.get(id) ?? null;
  private readonly loose = $derived.by(() => looseIn(this.session.findings));
  private readonly kinds = $derived.by(() => this.session.piece.head.kinds ?? {});

  private readonly focused = $derived.by(() =>
    this.focusSteps > 0 && this.session.sceneId !== null && this.sizes.has(this.session.sceneId) ? this.session.sceneId : null
  );
  private readonly sifted = $derived.by((): Sieve => ({
    ...this.sieve,
    around: this.focused === null ? null : around(this.web, this.focused, this.focusSteps),
    changed: this.since.revision === null ? null : (this.since.frames ?? new Set<string>()),
  }));
  /** Frames that are not looked for. */
  readonly faint = $derived.by(() => {
    if (this.isWhole) return new Set<string>();
    const known = { loose: this.loose, isUnwalked: (id: string) => this.looks.isUnwalked(id) };
    return new Set(this.session.program.frames.filter((id) => !passes(this.session.program.scenes.get(id)!, this.sifted, known)));
  });
  /** Whether nothing is looked for. */
  readonly isWhole = $derived.by(() => isAllSeen(this.sifted));
  readonly found = $derived.by(() => this.session.program.frames.filter((id) => !this.faint.has(id)));

  private isWalked = (stitches: readonly Stitch[]) => stitches.every(({ thread }) => this.looks.isWalked(thread.id));

  readonly strands = $derived.by(() =>
    [...this.routes].map(([ribbon, curve]): Strand => {
      const times = this.looks.timesOf(ribbon.stitches.map(({ thread }) => thread.id));
      return {
        curve,
        count: times ?? ribbon.stitches.length,
        isWeighed: times !== null,
        isWalked: times === null ? this.isWalked(ribbon.stitches) : times > 0,
        isConditional: ribbon.isConditional,
        isFaint: this.faint.has(ribbon.from) || this.faint.has(ribbon.to) || times === 0,
      };
    })
  );

  /** What the shortest way to the frame that is pointed at fires. */
  readonly way = $derived.by(() => (this.hovered === null ? null : this.looks.wayTo(this.hovered)));
  /** From the middle of the very layer, where the stitch begins at one. */
  private fromLayer(stitch: Stitch, curve: Curve): Curve {
    const box = this.boxes.get(stitch.from);
    const size = this.sizes.get(stitch.from);
    if (!stitch.box || !box || !size || this.away.has(stitch.from)) return curve;
    const [x, y] = [box.x + (stitch.box.x + stitch.box.width / 2) * size.scale, box.y + (stitch.box.y + stitch.box.height / 2) * size.scale];
    return [x, y, Math.max(curve[2], x + 20), (y + curve[3]) / 2, curve[4], curve[5], curve[6], curve[7]];
  }

  private readonly litRibbons = $derived.by(() => {
    const { hovered, pointed, way, web } = this;
    if (hovered === null) return pointed ? [pointed.ribbon] : [];
    return web.ribbons.filter(({ from, to, stitches }) =>
      way ? stitches.some(({ thread }) => way.threads.has(thread.id)) : from === hovered || to === hovered
    );
  });

  /** Stitches of what is pointed at, each from its own layer. */
  readonly lit = $derived.by(() => {
    const { way } = this;
    const curves = routeAll(this.litRibbons, this.boxAt);
    return this.litRibbons.flatMap((ribbon) => {
      const curve = this.routes.get(ribbon) ?? curves.get(ribbon);
      if (!curve) return [];
      return ribbon.stitches
        .filter(({ thread }) => !way || way.threads.has(thread.id))
        .map((stitch) => ({
          curve: this.fromLayer(stitch, curve),
          count: 1,
          isWeighed: false,
          isWalked: this.isWalked([stitch]),
          isConditional: false,
          isFaint: false,
          words: this.pointed ? stitch.words : null,
        }));
    });
  });

  readonly sheets = $derived.by(() =>
    this.session.program.frames.flatMap((id, at): Sheet[] => {
      const box = this.seen.get(id);
      const { scene } = this.session.program.scenes.get(id)!;
      if (!box) return [];
      const note = this.looks.noteOn(id);
      const isStart = this.session.piece.head.start.includes(id);
      const tags: Tag[] = [
        ...(note ? [{ words: note.text, tone: note.tone }] : []),
        ...(isStart ? [{ words: 'start', tone: 'good' as const }] : []),
        ...(scene.ending ? [{ words: 'ending', tone: 'plain' as const }] : []),
        ...(this.loose.get(id) ? [{ words: `● ${this.loose.get(id)}`, tone: 'bad' as const }] : []),
      ];
      const kind = scene.kind === undefined ? undefined : this.kinds[scene.kind];
      return [
        {
          id,
          box,
          name: `${at + 1} ${scene.name}`,
          states: statesOf(scene).map(({ name }) => name),
          color: colorOf(this.session.piece.head, scene.background),
          isFaint: this.faint.has(id),
          isOpen: this.session.frameSelection.includes(id) || this.session.sceneId === id,
          isDraft: scene.draft === true,
          isFound: this.sieve.words.trim() !== '' && !this.faint.has(id),
          kind: kind ? { mark: kind.mark, color: kind.color } : null,
          tags,
          presses: this.looks
            .pressesOn(id)
            .slice(0, MOST_PRESSES)
            .map(({ at: [x, y], met }) => ({ x: (x / scene.width) * box.width, y: (y / scene.height) * box.height, met })),
          marks: this.marksOn(id).filter(({ kind: mark }) => !this.everyStitch || mark !== 'toHub'),
          weight: (this.session.sceneId === id ? 40 : 0) + (isStart ? 30 : 0) + (scene.ending ? 10 : 0),
        },
      ];
    })
  );

  /** What is not drawn as stitches: where many lead, and what was said. */
  marksOn(id: string): readonly Mark[] {
    const said = this.said.get(id)?.length ?? 0;
    const own = this.web.marks.get(id) ?? [];
    return said ? [...own, { kind: 'said', words: `${markSigns.said} ${said}`, meaning: `${count(said, 'open comment')}` }] : own;
  }

  private readonly said = $derived.by(() => groupedBy(this.session.comments.left, ({ place }) => place.scene));

  /** Pieces of cloth under bundles whose frames stand together. */
  readonly cloths = $derived.by(() => {
    const bundles = this.session.piece.head.bundles ?? {};
    const own = groupedBy(this.session.program.frames, (id) => this.session.program.scenes.get(id)!.scene.bundle ?? '');
    return Object.entries(bundles).flatMap(([bundle, { name }]) => {
      const frames = own.get(bundle) ?? [];
      const mine = frames.flatMap((id) => this.boxes.get(id) ?? []);
      if (mine.length === 0) return [];
      const x = Math.min(...mine.map((box) => box.x)) - 22;
      const y = Math.min(...mine.map((box) => box.y)) - 34;
      const right = Math.max(...mine.map((box) => box.x + box.width)) + 22;
      const bottom = Math.max(...mine.map((box) => box.y + box.height)) + NAME;
      const isApart = [...this.boxes].every(
        ([id, box]) => frames.includes(id) || box.x > right || box.x + box.width < x || box.y > bottom || box.y + box.height < y
      );
      const ends = frames.reduce((sum, id) => sum + (this.loose.get(id) ?? 0), 0);
      if (!isApart) return [];
      const box = { x, y, width: right - x, height: bottom - y };
      return [{ bundle, name, box, frames: frames.length, loose: ends, isFolded: this.folded.all.has(bundle) }];
    });
  });
  /** Frames in bundles that are folded, with the cloth that stands for them. */
  private readonly away = $derived.by(() => {
    const folded = new Map(this.cloths.flatMap((cloth) => (cloth.isFolded ? [[cloth.bundle, cloth] as const] : [])));
    return new Map(
      this.session.program.frames.flatMap((id) => {
        const cloth = folded.get(this.session.program.scenes.get(id)!.scene.bundle ?? '');
        return cloth ? [[id, cloth] as const] : [];
      })
    );
  });
  /** The same by what stands for them at the ends of ribbons. */
  private readonly folds = $derived.by(() => new Map(this.cloths.map(({ bundle, box }) => [endOf(bundle), box])));
  /** Where frames stand that are seen. */
  readonly seen = $derived.by(() => (this.away.size ? new Map([...this.boxes].filter(([id]) => !this.away.has(id))) : this.boxes));

  /** Unfolds the bundle that a frame is in. */
  bringOut(id: string): void {
    const cloth = this.away.get(id);
    if (cloth) this.folded.fold([cloth.bundle], false);
  }
  /** Stitches between bundles, taken together. */
  readonly seams = $derived.by((): Strand[] => {
    const at = new Map(this.cloths.map(({ bundle, box }) => [bundle, box]));
    const bundleOf = (id: string) => this.session.program.scenes.get(id)!.scene.bundle ?? '';
    const between = groupedBy(
      this.web.ribbons.filter(
        ({ from, to, isToHub }) => !isToHub && bundleOf(from) !== bundleOf(to) && at.has(bundleOf(from)) && at.has(bundleOf(to))
      ),
      ({ from, to }) => `${bundleOf(from)} ${bundleOf(to)}`
    );
    const ribbons = [...between].map(([key, list]): Ribbon => {
      const [from, to] = key.split(' ') as [string, string];
      return { key, from, to, stitches: list.flatMap(({ stitches }) => stitches), isToHub: false, isConditional: false };
    });
    return [...routeAll(ribbons, (id) => at.get(id) ?? null)].map(([{ stitches }, curve]) => ({
      curve,
      count: stitches.length,
      isWeighed: false,
      isWalked: this.isWalked(stitches),
      isConditional: false,
      isFaint: false,
    }));
  });

  readonly placed = $derived.by(() => this.session.program.frames.filter((id) => this.session.program.scenes.get(id)!.scene.onMap));
}
