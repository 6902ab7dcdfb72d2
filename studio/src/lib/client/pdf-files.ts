/** What a PDF may refer to without holding it: standard typefaces, and how letters of East Asia are coded. Each by its name, as an address. */
const files = import.meta.glob<string>(
  [
    '../../../../node_modules/pdfjs-dist/cmaps/*.bcmap',
    '../../../../node_modules/pdfjs-dist/standard_fonts/*.{pfb,ttf}',
    '../../../../node_modules/pdfjs-dist/wasm/*.wasm',
  ],
  { query: '?url&no-inline', import: 'default', eager: true }
);

const byName = new Map(Object.entries(files).map(([path, url]) => [path.replace(/^.*\//, ''), url]));

/** Fetches them for the reader of PDF, by name. */
export class PdfFiles {
  async fetch({ filename }: { readonly filename: string }): Promise<Uint8Array> {
    const response = await fetch(byName.get(filename) ?? '');
    if (!byName.has(filename) || !response.ok) throw new Error(`${filename} is not here.`);
    return new Uint8Array(await response.arrayBuffer());
  }
}
