import { pagesOfPdf } from './pdf-pages';

/** Documents of several pages that come in as one picture for each. */
export const isDocument = (file: File): boolean => /\.pdf$/i.test(file.name) || file.type === 'application/pdf';

/** What documents are called where files are refused. */
export const DOCUMENTS = 'PDF';

export interface Unfolded {
  readonly files: readonly File[];
  /** What of the documents did not come in, and what could not be read, a sentence each. */
  readonly left: readonly string[];
}

/** Files with a picture for each page in the place of documents. */
export async function unfoldDocuments(files: readonly File[], progress: (done: number, all: number) => void, stop: AbortSignal): Promise<Unfolded> {
  const found: File[] = [];
  const left: string[] = [];
  for (const file of files) {
    if (stop.aborted) break;
    if (!isDocument(file)) {
      found.push(file);
      continue;
    }
    try {
      const read = await pagesOfPdf(file, progress, stop);
      found.push(...read.pages);
      left.push(...read.left);
    } catch (error) {
      // Who stops it knows.
      if (!stop.aborted) left.push(`${file.name}: ${(error as Error).message}`);
    }
  }
  return { files: found, left };
}
