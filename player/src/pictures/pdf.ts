import type { Lead } from '@zany/core';
import type { PDFDocument, PDFRef } from 'pdf-lib';

/** Pages as PDF (ISO 32000): each a picture, with links where a click leads on, and names to turn to. */

export interface Page {
  readonly title: string;
  /** The frame that is seen on it. */
  readonly frame: string;
  /** CSS px. */
  readonly width: number;
  readonly height: number;
  readonly png: Uint8Array;
  readonly leads: readonly Lead[];
}

/** Points of a page for one CSS px: 72 are an inch, as are 96 px. */
const POINTS = 0.75;

/** A PDF of pages in their order, made one after the other; its writer is fetched only here. */
export async function pdfOf(title: string, pages: AsyncIterable<Page>): Promise<Uint8Array> {
  const { PDFDocument } = await import('pdf-lib');
  const pdf = await PDFDocument.create();
  pdf.setTitle(title, { showInWindowTitleBar: true });
  pdf.setCreator('Zany Thread');
  const made: { readonly page: Omit<Page, 'png'>; readonly ref: PDFRef }[] = [];
  for await (const { png, ...page } of pages) {
    const sheet = pdf.addPage([page.width * POINTS, page.height * POINTS]);
    const picture = await pdf.embedPng(png);
    // Left until the end, the pixels of all pages would be held at once.
    await picture.embed();
    sheet.drawImage(picture, { x: 0, y: 0, ...sheet.getSize() });
    made.push({ page, ref: sheet.ref });
  }
  // A frame in several states is several pages: what leads to it leads to the first.
  const byFrame = new Map(made.map(({ page, ref }) => [page.frame, ref] as const).reverse());
  for (const [i, { page }] of made.entries()) await link(pdf, i, page, byFrame);
  await contents(
    pdf,
    made.map(({ page, ref }) => ({ title: page.title, ref }))
  );
  return pdf.save();
}

async function link(
  pdf: PDFDocument,
  at: number,
  { height, leads }: Pick<Page, 'height' | 'leads'>,
  byFrame: ReadonlyMap<string, PDFRef>
): Promise<void> {
  const { PDFHexString, PDFString } = await import('pdf-lib');
  for (const { name, area, to } of leads) {
    const ref = 'frame' in to ? byFrame.get(to.frame) : undefined;
    if ('frame' in to && !ref) continue;
    const [x, y] = [area.x * POINTS, (height - area.y - area.height) * POINTS];
    const annotation = pdf.context.obj({
      Type: 'Annot',
      Subtype: 'Link',
      Rect: [x, y, x + area.width * POINTS, y + area.height * POINTS],
      Border: [0, 0, 0],
      Contents: PDFHexString.fromText(name),
      ...(ref ? { Dest: [ref, 'Fit'] } : { A: { S: 'URI', URI: PDFString.of('address' in to ? encodeURI(decoded(to.address)) : '') } }),
    });
    pdf.getPage(at).node.addAnnot(pdf.context.register(annotation));
  }
}

/** An address with no escapes, to escape it once. */
function decoded(address: string): string {
  try {
    return decodeURI(address);
  } catch {
    return address;
  }
}

/** What readers show beside the pages: each by its name. */
async function contents(pdf: PDFDocument, entries: readonly { readonly title: string; readonly ref: PDFRef }[]): Promise<void> {
  if (entries.length === 0) return;
  const { PDFHexString, PDFName } = await import('pdf-lib');
  const root = pdf.context.nextRef();
  const refs = entries.map(() => pdf.context.nextRef());
  entries.forEach(({ title, ref }, i) =>
    pdf.context.assign(
      refs[i]!,
      pdf.context.obj({
        Title: PDFHexString.fromText(title),
        Parent: root,
        Dest: [ref, 'Fit'],
        ...(i > 0 && { Prev: refs[i - 1]! }),
        ...(i < refs.length - 1 && { Next: refs[i + 1]! }),
      })
    )
  );
  pdf.context.assign(root, pdf.context.obj({ Type: 'Outlines', First: refs[0]!, Last: refs.at(-1)!, Count: refs.length }));
  pdf.catalog.set(PDFName.of('Outlines'), root);
  pdf.catalog.set(PDFName.of('PageMode'), PDFName.of('UseOutlines'));
}
