import sharp from 'sharp';

/** Page pictures as somebody would bring them in, drawn for the tests: real PNG, JPEG, WebP and SVG files. */
export interface FileToBring {
  readonly name: string;
  readonly mimeType: string;
  readonly buffer: Buffer;
}

const svg = (width: number, height: number, inside: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}"><rect width="${width}" height="${height}" fill="#fbf7ee"/>${inside}</svg>`;

const title = (text: string, width: number) =>
  `<rect width="${width}" height="96" fill="#1f4e5f"/><text x="24" y="66" font-family="DejaVu Sans" font-size="26" fill="#fff">${text}</text>`;

const sizes = { width: 390, height: 844 };

/** A phone page with a title; the drawing differs with it. */
export const pageSvg = (text: string, inside = '') => svg(sizes.width, sizes.height, title(text, sizes.width) + inside);

/** A page with painted buttons under each other. */
export const menuSvg = (text: string, buttons: readonly string[]) =>
  pageSvg(
    text,
    buttons
      .map(
        (label, i) =>
          `<rect x="40" y="${130 + i * 84}" width="310" height="60" rx="12" fill="#f0b13c"/><text x="60" y="${168 + i * 84}" font-family="DejaVu Sans" font-size="20" fill="#26232c">${label}</text>`
      )
      .join('')
  );

const render = {
  png: (source: string) => sharp(Buffer.from(source)).png().toBuffer(),
  jpg: (source: string) => sharp(Buffer.from(source)).jpeg().toBuffer(),
  webp: (source: string) => sharp(Buffer.from(source)).webp().toBuffer(),
  svg: (source: string) => Promise.resolve(Buffer.from(source)),
};
const types = { png: 'image/png', jpg: 'image/jpeg', webp: 'image/webp', svg: 'image/svg+xml' };

export async function pageFile(name: string, source = pageSvg(name)): Promise<FileToBring> {
  const ending = /\.(\w+)$/.exec(name)![1] as keyof typeof render;
  return { name, mimeType: types[ending], buffer: await render[ending](source) };
}
