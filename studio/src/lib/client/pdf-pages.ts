import { count, type PageLink } from '@zany/core';
import type * as Pdf from 'pdfjs-dist';
import { PageFile } from './page-file';

/** PDF files (ISO 32000) as pictures of their pages, with where they lead and what they are called. */

/** Pages of one file at most, pixels of a page's picture, and milliseconds that a page, or the file itself, may take. */
const MOST = { pages: 200, pixels: 16_000_000, ms: 20_000 } as const;

/** CSS px for a point: 96 are an inch, as are 72 points. */
const PX = 96 / 72;

/** Pixels of a picture for one CSS px. */
const FINE = 3;

export interface PdfRead {
  readonly pages: readonly PageFile[];
  /** What did not come in, a sentence each. */
  readonly left: readonly string[];
}

/** The pages of a PDF as pictures; throws with a sentence for what cannot be read. */
export async function pagesOfPdf(file: File, progress: (done: number, all: number) => void, stop: AbortSignal): Promise<PdfRead> {
  const reader = await import('pdfjs-dist');
  const { default: Reading } = await import('pdfjs-dist/build/pdf.worker.mjs?worker');
  const { PdfFiles } = await import('./pdf-files');
  const worker = new reader.PDFWorker({ port: new Reading() as unknown as null });
  try {
    const data = new Uint8Array(await file.arrayBuffer());
    const named = { cMapUrl: '/', standardFontDataUrl: '/', wasmUrl: '/', cMapPacked: true };
    const settings = { ...named, BinaryDataFactory: PdfFiles, useWorkerFetch: false, useSystemFonts: false, enableXfa: false };
    const pdf = await inTime(reader.getDocument({ data, worker, ...settings }).promise.catch(unreadable), stop);
    return await new PdfPages(pdf, file.name.replace(/\.pdf$/i, '') || 'Page').read(progress, stop);
  } finally {
    worker.destroy();
  }
}

/** What comes in time and before it is stopped; what does not is thrown as too much. */
async function inTime<T>(work: Promise<T>, stop: AbortSignal): Promise<T> {
  let [late, halt]: [ReturnType<typeof setTimeout> | undefined, () => void] = [undefined, () => undefined];
  const over = new Promise<never>((_, reject) => {
    halt = () => reject(new TooMuch());
    late = setTimeout(halt, MOST.ms);
    stop.addEventListener('abort', halt);
  });
  try {
    return await Promise.race([work, over]);
  } finally {
    clearTimeout(late);
    stop.removeEventListener('abort', halt);
  }
}

class TooMuch extends Error {
  constructor() {
    super('It takes too long to be read.');
  }
}

function unreadable(error: unknown): never {
  if ((error as Error).name === 'PasswordException') throw new Error('It is locked by a password. Save it without one first.');
  throw new Error('It cannot be read as a PDF: it is damaged, or something else.');
}

class PdfPages {
  private readonly left: string[] = [];

  constructor(
    private readonly pdf: Pdf.PDFDocumentProxy,
    private readonly name: string
  ) {}

  async read(progress: (done: number, all: number) => void, stop: AbortSignal): Promise<PdfRead> {
    const all = Math.min(this.pdf.numPages, MOST.pages);
    if (all < this.pdf.numPages) this.left.push(`${this.name}: ${count(this.pdf.numPages - all, 'page')} of ${this.pdf.numPages}`);
    const titles = await this.titles();
    const pages: PageFile[] = [];
    for (let i = 0; i < all && !stop.aborted; i++) {
      try {
        pages.push(await this.page(i, titles.get(i), stop));
      } catch (error) {
        const why = error instanceof TooMuch ? 'it takes too long to be painted' : 'it is damaged';
        if (!stop.aborted) this.left.push(`${this.name}, page ${i + 1}: ${why}`);
      }
      progress(i + 1, all);
    }
    return { pages, left: this.left };
  }

  /** One page as a picture; throws where it cannot be read, or not in time. */
  private async page(i: number, title: string | undefined, stop: AbortSignal): Promise<PageFile> {
    const page = await inTime(this.pdf.getPage(i + 1), stop);
    try {
      const view = page.getViewport({ scale: PX });
      const [width, height] = [sideOf(view.width), sideOf(view.height)];
      const picture = await pictureOf(page, Math.min(FINE, Math.sqrt(MOST.pixels / (width * height))), stop);
      const about = { size: { width, height }, links: await inTime(this.linksOf(page, i), stop), ...(title && { title }) };
      return new PageFile([picture], this.fileOf(i), this.name, about);
    } finally {
      page.cleanup();
    }
  }

  private fileOf = (page: number): string => `${this.name} ${page + 1}.png`;

  /** What the outline calls each page: the first of its entries that leads there. */
  private async titles(): Promise<Map<number, string>> {
    const titles = new Map<number, string>();
    const outline = (await this.pdf.getOutline().catch(() => null)) ?? [];
    for (const { title, dest } of outline) {
      const page = await this.pageOf(dest);
      const name = title.replace(/\s+/g, ' ').trim().slice(0, 100);
      if (page !== null && name && !titles.has(page)) titles.set(page, name);
    }
    return titles;
  }

  /** The page that a destination is on, counted from 0; null where it is on none. */
  private async pageOf(dest: unknown): Promise<number | null> {
    const explicit: unknown = typeof dest === 'string' ? await this.pdf.getDestination(dest).catch(() => null) : dest;
    const at: unknown = Array.isArray(explicit) ? explicit[0] : null;
    if (typeof at === 'number') return at < this.pdf.numPages ? at : null;
    if (at === null || typeof at !== 'object') return null;
    return this.pdf.getPageIndex(at as Parameters<Pdf.PDFDocumentProxy['getPageIndex']>[0]).catch(() => null);
  }

  private async linksOf(page: Pdf.PDFPageProxy, at: number): Promise<PageLink[]> {
    const view = page.getViewport({ scale: 1 });
    const links: PageLink[] = [];
    for (const annotation of (await page.getAnnotations()) as Annotation[]) {
      if (annotation.subtype !== 'Link') continue;
      const name = (annotation.contentsObj?.str || annotation.overlaidText || '').replace(/\s+/g, ' ').trim().slice(0, 60) || 'Link';
      const to = await this.leadsTo(annotation, at);
      if (to === null) {
        this.left.push(`${this.fileOf(at)}, ${name}: what it does is nothing that leads on`);
        continue;
      }
      const [x1, y1, x2, y2] = view.convertToViewportRectangle(annotation.rect) as [number, number, number, number];
      const area = { x: Math.min(x1, x2) / view.width, y: Math.min(y1, y2) / view.height };
      links.push({ name, area: { ...area, width: Math.abs(x2 - x1) / view.width, height: Math.abs(y2 - y1) / view.height }, to });
    }
    return links;
  }

  private async leadsTo({ url, unsafeUrl, dest, action }: Annotation, at: number): Promise<PageLink['to'] | null> {
    const address = url ?? unsafeUrl;
    if (address) return { address };
    const last = this.pdf.numPages - 1;
    const turned = { NextPage: at + 1, PrevPage: at - 1, FirstPage: 0, LastPage: last }[action ?? ''];
    const page = turned ?? (await this.pageOf(dest));
    return page === null || page < 0 || page > last ? null : { file: this.fileOf(page) };
  }
}

/** What is used of an annotation of the kind Link. */
interface Annotation {
  readonly subtype: string;
  readonly rect: [number, number, number, number];
  readonly url?: string;
  readonly unsafeUrl?: string;
  readonly dest?: unknown;
  readonly action?: string;
  readonly contentsObj?: { readonly str: string };
  readonly overlaidText?: string;
}

/** Frames are no larger; what a damaged page says of its size may be anything. */
const sideOf = (length: number): number => Math.min(20_000, Math.max(1, Math.round(length) || 1));

async function pictureOf(page: Pdf.PDFPageProxy, scale: number, stop: AbortSignal): Promise<Blob> {
  const viewport = page.getViewport({ scale: PX * scale });
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [sideOf(viewport.width), sideOf(viewport.height)];
  const painting = page.render({ canvas, viewport });
  try {
    await inTime(painting.promise, stop);
  } finally {
    painting.cancel();
  }
  const picture = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
  if (!picture) throw new Error(`Page ${page.pageNumber} cannot be painted.`);
  return picture;
}
