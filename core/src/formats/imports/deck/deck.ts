import { openingOf } from '../../../edit/commands/pages.ts';
import { newThread } from '../../../edit/commands/threads.ts';
import { keysBetween } from '../../../edit/order.ts';
import type { MakeId } from '../../../edit/make-id.ts';
import type { Operation } from '../../../edit/operation.ts';
import { framesOf, scenesOf, type Asset, type Layer, type Piece, type Scene, type Thread } from '../../../piece/piece.ts';
import type { Letters, Style } from '../../../piece/schema.ts';
import type { Rect } from '../../../program/geometry.ts';
import { escapeText } from '../../../expression/text.ts';
import { cutText, mendedText, MOST_NOTE, nameFrom } from '../../../text.ts';
import type { Step } from '../../../vocabulary/steps/all.ts';
import type { Transition } from '../../../vocabulary/transitions/all.ts';
import { count, takeName } from '../../../words.ts';
import type { CameIn } from '../define.ts';

/** A presentation, as every format of presentations can say it. Lengths are CSS px, colours as pieces keep them. */
export interface Deck {
  readonly width: number;
  readonly height: number;
  readonly slides: readonly Slide[];
  /** What slides have in common, by name. */
  readonly grounds: ReadonlyMap<string, Ground>;
  /** What cannot be taken in, a sentence each. */
  readonly left: readonly string[];
}

export interface Ground {
  readonly name: string;
  readonly shapes: readonly DeckShape[];
}

export interface Slide {
  /** What links call it. */
  readonly key: string;
  readonly name: string;
  readonly background: string;
  /** What it stands on, from back to front: keys of `grounds`. */
  readonly grounds: readonly string[];
  readonly shapes: readonly DeckShape[];
  /** How it comes. */
  readonly transition: Transition | null;
  /** After so long the next slide follows by itself, ms. */
  readonly after: number | null;
  /** What the speaker reads. */
  readonly note: string;
}

export interface DeckShape {
  readonly name: string;
  readonly type: 'box' | 'oval' | 'path' | 'text' | 'picture' | 'hit';
  readonly box: Rect;
  /** Degrees, clockwise, about its middle. */
  readonly rotation: number;
  readonly style: Style;
  /** SVG path data in a box of 100 by 100. */
  readonly path?: string;
  readonly text?: string;
  readonly letters?: Letters;
  /** Its file in the document. */
  readonly picture?: string;
  readonly label?: string;
  readonly lead?: DeckLead;
}

export type DeckLead = { readonly slide: string } | { readonly turn: 'next' | 'previous' | 'first' | 'last' | 'back' } | { readonly address: string };

/** One shape, or none, as a list. */
export const listed = (shape: DeckShape | null): DeckShape[] => (shape ? [shape] : []);

/** Slides that come in at most, and shapes on one. */
export const MOST = { slides: 500, shapes: 1000 } as const;

/** Slides as frames after all others, and what they have in common as sheets under them. */
export function deckIn(piece: Piece, deck: Deck, assets: ReadonlyMap<string, Asset>, makeId: MakeId): CameIn {
  return new DeckReading(piece, deck, assets, makeId).run();
}

const rounded = (value: number): number => Math.round(value * 100) / 100;
const inReach = (value: number, most = 100_000): number => Math.min(most, Math.max(-most, rounded(value)));
const nameOf = (name: string, usual: string): string => nameFrom(name.replace(/\s+/g, ' '), usual);

class DeckReading {
  private readonly operations: Operation[] = [];
  private readonly left: string[];
  private readonly frames: readonly string[];
  private readonly counts = { threads: 0 };
  private readonly kept: Set<string>;

  constructor(
    private readonly piece: Piece,
    private readonly deck: Deck,
    private readonly assets: ReadonlyMap<string, Asset>,
    private readonly makeId: MakeId
  ) {
    this.left = [...deck.left];
    this.frames = deck.slides.map(() => makeId());
    this.kept = new Set(piece.assets.keys());
  }

  run(): CameIn {
    const { slides } = this.deck;
    const grounds = this.makeGrounds();
    const there = framesOf(this.piece);
    const keys = keysBetween(there.at(-1)?.order ?? null, null, slides.length);
    const names = new Set(there.map(({ name }) => name));
    slides.forEach((slide, i) => {
      const carries = slide.grounds.flatMap((key) => grounds.get(key) ?? []).map((sheet) => ({ sheet, place: 'under' as const }));
      const name = takeName(names, nameOf(slide.name, `Slide ${i + 1}`));
      const note = cutText(mendedText(slide.note).trim(), MOST_NOTE);
      const scene: Scene = {
        ...this.scene(this.frames[i]!, 'frame', name, keys[i]!, slide.background),
        ...(carries.length && { carries }),
        ...(note && { note }),
      };
      this.operations.push({ op: 'put', table: 'scenes', value: scene });
      this.addShapes(scene, slide.shapes, i);
      if (slide.after !== null && i + 1 < slides.length)
        this.addThread('scene', scene.id, { type: 'after', ms: Math.max(1, Math.round(slide.after)) }, this.goTo(i + 1));
    });
    const [first] = this.frames;
    if (first !== undefined && this.piece.head.start.length === 0)
      this.operations.push({ op: 'set', table: 'piece', id: this.piece.head.id, path: ['start'], value: [first] });
    const made = [
      ...(slides.length ? [count(slides.length, 'frame')] : []),
      ...(grounds.size ? [count(grounds.size, 'sheet')] : []),
      ...(this.counts.threads ? [count(this.counts.threads, 'thread')] : []),
    ];
    const { width, height } = this.scene('', 'frame', '', '', '');
    return { operations: this.operations, made, left: this.left, size: { width, height } };
  }

  private scene(id: string, use: Scene['use'], name: string, order: string, background: string): Scene {
    const side = (value: number) => Math.min(20_000, Math.max(1, Math.round(value)));
    return { id, use, name, order, width: side(this.deck.width), height: side(this.deck.height), background };
  }

  /** Only what something is on, and what slides stand on, becomes a sheet. */
  private makeGrounds(): Map<string, string> {
    const used = [...this.deck.grounds].filter(([key, { shapes }]) => shapes.length && this.deck.slides.some((slide) => slide.grounds.includes(key)));
    const there = scenesOf(this.piece, 'sheet');
    const keys = keysBetween(there.at(-1)?.order ?? null, null, used.length);
    const names = new Set(there.map(({ name }) => name));
    return new Map(
      used.map(([key, { name, shapes }], i) => {
        const scene = this.scene(this.makeId(), 'sheet', takeName(names, nameOf(name, 'Ground')), keys[i]!, '#ffffff00');
        this.operations.push({ op: 'put', table: 'scenes', value: scene });
        this.addShapes(scene, shapes, null);
        return [key, scene.id];
      })
    );
  }

  private addShapes(scene: Scene, shapes: readonly DeckShape[], slide: number | null): void {
    const some = shapes.slice(0, MOST.shapes);
    if (some.length < shapes.length) this.left.push(`${scene.name}: ${shapes.length - some.length} of its ${shapes.length} shapes`);
    const keys = keysBetween(null, null, some.length);
    const names = new Set<string>();
    some.forEach((shape, i) => {
      const asset = shape.picture === undefined ? undefined : this.assets.get(shape.picture);
      if (shape.type === 'picture' && !asset) {
        this.left.push(`${scene.name}, ${shape.name}: its picture is in a form that cannot be shown`);
        if (!shape.lead) return;
      }
      if (asset && !this.kept.has(asset.id)) {
        this.kept.add(asset.id);
        this.operations.push({ op: 'put', table: 'assets', value: asset });
      }
      const layer = this.layerOf(shape, scene.id, keys[i]!, takeName(names, nameOf(shape.name, 'Shape')), asset);
      this.operations.push({ op: 'put', table: 'layers', value: layer });
      const step = shape.lead && this.stepOf(shape.lead, slide);
      if (typeof step === 'string') this.left.push(`${scene.name}, ${layer.name}: ${step}`);
      else if (step) this.addThread('layer', layer.id, { type: 'click' }, step);
    });
  }

  private layerOf(shape: DeckShape, scene: string, order: string, name: string, asset: Asset | undefined): Layer {
    const { box, rotation, style, letters, text, path, label } = shape;
    const pose = {
      x: inReach(box.x),
      y: inReach(box.y),
      width: Math.max(1, inReach(box.width)),
      height: Math.max(1, inReach(box.height)),
      ...(rotation % 360 !== 0 && { rotation: rounded(((rotation % 360) + 360) % 360) }),
    };
    const type = shape.type === 'picture' && !asset ? 'hit' : shape.type;
    return {
      id: this.makeId(),
      scene,
      parent: null,
      order,
      name,
      type,
      pose,
      style: type === 'hit' ? {} : style,
      ...(asset && { asset: asset.id, fit: 'fill' as const }),
      ...(path !== undefined && { path }),
      ...(text !== undefined && { text: escapeText(cutText(mendedText(text), 4000)) }),
      ...(letters && Object.keys(letters).length > 0 && { letters }),
      ...(label !== undefined && nameOf(label, '') !== '' && { label: nameOf(label, '') }),
    };
  }

  private addThread(on: 'layer' | 'scene', owner: string, cue: Thread['cue'], step: Step): void {
    this.operations.push(newThread(this.makeId(), on, owner, { cue, branches: [{ steps: [step] }] }));
    this.counts.threads++;
  }

  private goTo(slide: number): Step {
    const transition = this.deck.slides[slide]!.transition ?? { type: 'cut' as const };
    return { do: 'go', target: { to: 'frame', frame: this.frames[slide]! }, transition };
  }

  /** What a link does from a slide, or from what many have in common; a sentence where that is nothing. */
  private stepOf(lead: DeckLead, slide: number | null): Step | string {
    const last = this.frames.length - 1;
    if ('address' in lead) return openingOf(lead.address.trim());
    if ('slide' in lead) {
      const to = this.deck.slides.findIndex(({ key }) => key === lead.slide);
      return to < 0 ? 'it leads to a slide that is not there' : this.goTo(to);
    }
    if (lead.turn === 'back') return { do: 'go', target: { to: 'back' }, transition: { type: 'cut' } };
    if (lead.turn === 'first') return this.goTo(0);
    if (lead.turn === 'last') return this.goTo(last);
    // From what slides have in common each leads to its own neighbour.
    if (slide === null) return { do: 'go', target: { to: lead.turn }, transition: { type: 'cut' } };
    const to = slide + (lead.turn === 'next' ? 1 : -1);
    return to < 0 || to > last ? `there is no slide ${lead.turn === 'next' ? 'after' : 'before'} it` : this.goTo(to);
  }
}
