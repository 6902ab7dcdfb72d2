import { PageFile } from '$lib/client/page-file';
import type { PaperAnswer, PaperAsked } from './paper.worker';
import { boxQuad, canCut, quadOf, sizeOf, type Point, type Quad } from './quad';

/** Pixels along the longest side of a photograph that is worked on at most, and of all together: each takes four bytes. */
const LONGEST = 4000;
const MOST_PIXELS = 64_000_000;

/** Pixels of a picture that is cut out, for one CSS px of its frame. */
const FINE = 2;

/** CSS px of a preview's width. */
const PREVIEW = 220;

/** A frame that is cut out of a photograph. */
export class Cut {
  quad: Quad = $state.raw(quadOf(() => ({ x: 0, y: 0 })));
  /** An address of its picture as it will be, while it is as it was asked for; null until it is there. */
  preview: string | null = $state(null);

  constructor(quad: Quad) {
    this.quad = quad;
  }

  get isWhole(): boolean {
    return canCut(this.quad);
  }
}

/** A photograph of paper. */
export class Photo {
  cuts: Cut[] = $state([]);
  state: 'reading' | 'read' | 'unreadable' = $state('reading');
  width = $state(0);
  height = $state(0);
  readonly address: string;

  constructor(
    readonly key: string,
    readonly file: File
  ) {
    this.address = URL.createObjectURL(file);
  }
}

/** Photographs of sketches on paper, from which frames are cut out in a worker. */
export class Paper {
  readonly photos: readonly Photo[];
  /** How white paper is made, from 0 to 1. */
  strength = $state(1);
  private readonly worker = new Worker(new URL('./paper.worker.ts', import.meta.url), { type: 'module' });
  private readonly waiting = new Map<number, (answer: PaperAnswer) => void>();
  private asked = 0;
  private readonly longest: number;
  private readonly later = new Map<Cut, ReturnType<typeof setTimeout>>();

  constructor(
    files: readonly File[],
    /** How wide each frame is, CSS px. */
    private readonly frameWidth: number
  ) {
    this.photos = files.map((file, i) => new Photo(String(i), file));
    this.longest = Math.min(LONGEST, Math.floor(Math.sqrt(MOST_PIXELS / files.length)));
    this.worker.onmessage = ({ data }: MessageEvent<PaperAnswer>) => {
      this.waiting.get(data.id)?.(data);
      this.waiting.delete(data.id);
    };
    void this.readAll();
  }

  get count(): number {
    return this.photos.reduce((sum, { cuts }) => sum + cuts.filter(({ isWhole }) => isWhole).length, 0);
  }

  close(): void {
    this.worker.terminate();
    for (const timer of this.later.values()) clearTimeout(timer);
    for (const { address, cuts } of this.photos) {
      URL.revokeObjectURL(address);
      forget(cuts);
    }
  }

  move(photo: Photo, cut: Cut, corner: number, to: Point): void {
    const kept = { x: Math.max(0, Math.min(photo.width, to.x)), y: Math.max(0, Math.min(photo.height, to.y)) };
    cut.quad = quadOf((i) => (i === corner ? kept : cut.quad[i]));
    this.showSoon(photo, cut);
  }

  /** One more frame, in the middle of the photograph. */
  add(photo: Photo): Cut {
    const { width, height } = photo;
    const cut = new Cut(boxQuad(width * 0.35, height * 0.3, width * 0.3, height * 0.4));
    photo.cuts.push(cut);
    const made = photo.cuts.at(-1)!;
    this.showSoon(photo, made);
    return made;
  }

  remove(photo: Photo, cut: Cut): void {
    forget([cut]);
    photo.cuts = photo.cuts.filter((other) => other !== cut);
  }

  showAll(): void {
    for (const photo of this.photos) for (const cut of photo.cuts) this.showSoon(photo, cut);
  }

  /** All frames as pictures of pages, in the order of the photographs; none where it is stopped, and an error where one cannot be made. */
  async pages(progress: (done: number, all: number) => void, stop: AbortSignal): Promise<PageFile[]> {
    const pages: PageFile[] = [];
    const all = this.count;
    for (const photo of this.photos) {
      const name = photo.file.name.replace(/\.[a-z0-9]+$/i, '') || 'Sketch';
      const cuts = photo.cuts.filter(({ isWhole }) => isWhole);
      for (const [i, { quad }] of cuts.entries()) {
        if (stop.aborted) return [];
        progress(pages.length, all);
        const answer = await this.ask({ do: 'cut', photo: photo.key, quad, width: this.frameWidth * FINE, strength: this.strength });
        if (!('picture' in answer)) throw new Error(`Frame ${pages.length + 1} cannot be cut out. Pull its corners anew, or leave it out.`);
        const { width, height } = sizeOf(quad);
        const size = { width: this.frameWidth, height: Math.max(1, Math.round((this.frameWidth * height) / width)) };
        pages.push(new PageFile([answer.picture], `${name}${cuts.length > 1 ? ` ${i + 1}` : ''}.png`, name, { size, links: [] }));
      }
    }
    return pages;
  }

  private async readAll(): Promise<void> {
    for (const photo of this.photos) await this.read(photo);
  }

  /** The frames as they are found, whatever was moved before. */
  async read(photo: Photo): Promise<void> {
    photo.state = 'reading';
    try {
      const picture = await pictureOf(photo.file, this.longest);
      [photo.width, photo.height] = [picture.width, picture.height];
      const answer = await this.ask({ do: 'read', photo: photo.key, picture }, [picture]);
      if (!('cuts' in answer)) throw new Error('no picture');
      forget(photo.cuts);
      photo.cuts = answer.cuts.map((quad) => new Cut(quad));
      photo.state = 'read';
      for (const cut of photo.cuts) void this.show(photo, cut);
    } catch {
      photo.state = 'unreadable';
    }
  }

  /** While a corner is dragged, not for each step of it. */
  private showSoon(photo: Photo, cut: Cut): void {
    clearTimeout(this.later.get(cut));
    this.later.set(
      cut,
      setTimeout(() => void this.show(photo, cut), 120)
    );
  }

  private async show(photo: Photo, cut: Cut): Promise<void> {
    this.later.delete(cut);
    const { quad, isWhole } = cut;
    const { strength } = this;
    if (!isWhole) return;
    const answer = await this.ask({ do: 'cut', photo: photo.key, quad, width: PREVIEW, strength });
    if (cut.quad !== quad || this.strength !== strength || !('picture' in answer)) return;
    forget([cut]);
    cut.preview = URL.createObjectURL(answer.picture);
  }

  private ask(what: Unnumbered<PaperAsked>, transfer: Transferable[] = []): Promise<PaperAnswer> {
    const id = ++this.asked;
    return new Promise((resolve) => {
      this.waiting.set(id, resolve);
      this.worker.postMessage({ ...what, id }, transfer);
    });
  }
}

type Unnumbered<Message> = Message extends unknown ? Omit<Message, 'id'> : never;

/** Lets go of pictures that are shown no more. */
function forget(cuts: readonly Cut[]): void {
  for (const { preview } of cuts) if (preview) URL.revokeObjectURL(preview);
}

/** A photograph as it is to be seen, turned as its camera says, and with a longest side of so many pixels at most. */
async function pictureOf(file: File, longest: number): Promise<ImageBitmap> {
  const whole = await createImageBitmap(file, { imageOrientation: 'from-image' });
  const scale = longest / Math.max(whole.width, whole.height);
  if (scale >= 1) return whole;
  const size = { resizeWidth: Math.round(whole.width * scale), resizeHeight: Math.round(whole.height * scale) };
  const small = await createImageBitmap(whole, { ...size, resizeQuality: 'high' });
  whole.close();
  return small;
}
