import sharp from 'sharp';

type Box = readonly [x: number, y: number, width: number, height: number];

interface More {
  /** What else is drawn with the same pen, as SVG path data. */
  readonly strokes?: string;
  readonly ending?: 'jpeg' | 'png';
}

/** A photograph of paper that lies a little turned on a dark table, with boxes drawn on it, each with a line across its head. */
export const onPaper = (boxes: readonly Box[], { strokes = '', ending = 'jpeg' }: More = {}): Promise<Buffer> =>
  sharp(
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="1200" height="900">
      <defs><linearGradient id="light" x2="1" y2="1"><stop stop-color="#000" stop-opacity="0"/><stop offset="1" stop-color="#000" stop-opacity="0.35"/></linearGradient></defs>
      <rect width="1200" height="900" fill="#5b4632"/>
      <g transform="rotate(3 600 450)" fill="none" stroke="#34324a" stroke-width="5" stroke-linecap="round" stroke-linejoin="round">
      <rect x="100" y="80" width="1000" height="740" fill="#ece4d2" stroke="none"/>
      ${boxes.map(([x, y, w, h]) => `<rect x="${x}" y="${y}" width="${w}" height="${h}" rx="12"/><path d="M${x + 20} ${y + 60}h${w - 60}"/>`).join('')}
      <path d="${strokes}"/></g><rect width="1200" height="900" fill="url(#light)"/></svg>`)
  )
    .toFormat(ending)
    .toBuffer();
