import type { Leaf, Screen } from '@zany/core';
import { paintScreen, type PaintOptions } from '../paint-screen.ts';
import { forgetLines } from '../text-lines.ts';
import { SvgCanvas, SvgOutline, type SvgPicture } from './svg-canvas.ts';

/** Screens as SVG files that need nothing else: pictures and faces are in them. */

type Kind = 'picture' | 'video';

/** Where a drawing has from what it needs. */
export interface DrawingSources {
  /** By which texts are measured. */
  readonly measuring: Pick<OffscreenCanvasRenderingContext2D, 'font' | 'measureText'>;
  /** A picture, or the beginning of a film; null where it cannot be had. */
  readonly picture: (asset: string, kind: Kind) => Promise<SvgPicture | null>;
  /** Has fonts ready to measure by, as the canvas writes them. */
  readonly ready: (fonts: ReadonlySet<string>) => Promise<unknown>;
  /** The faces of some fonts, as rules with their files in them. */
  readonly faces: (fonts: ReadonlySet<string>) => Promise<string>;
}

/** What the files of one hand-over have in common: what was fetched for one is there for the next. */
export class SvgMaker {
  private readonly pictures = new Map<string, SvgPicture | null>();

  constructor(
    private readonly sources: DrawingSources,
    /** All that become files, with what is seen on each. */
    private readonly leaves: readonly Pick<Leaf, 'name' | 'frame'>[]
  ) {}

  /** The file of a frame; null where it is not among them. */
  private fileOf = (frame: string): string | null => this.leaves.find((leaf) => leaf.frame === frame)?.name.concat('.svg') ?? null;

  async file({ title, screen, leads }: Pick<Leaf, 'title' | 'screen' | 'leads'>): Promise<string> {
    const lacking = new Map<string, Kind>();
    const { fonts } = this.paint(screen, (asset, kind) => {
      lacking.set(asset, kind);
      return null;
    });
    await Promise.all([...lacking].map(([asset, kind]) => this.fetch(asset, kind)));
    await this.sources.ready(fonts);
    forgetLines();
    const { canvas } = this.paint(screen, (asset) => this.pictures.get(asset) ?? null);
    for (const { name, area, to } of leads) {
      const href = 'frame' in to ? this.fileOf(to.frame) : to.address;
      if (href !== null) canvas.link(name, href, area);
    }
    return canvas.file(title, await this.sources.faces(fonts));
  }

  private paint(
    screen: Screen,
    picture: (asset: string, kind: Kind) => SvgPicture | null
  ): { readonly canvas: SvgCanvas; readonly fonts: ReadonlySet<string> } {
    const canvas = new SvgCanvas(screen.width, screen.height, this.sources.measuring);
    const outline = (data: string, byX: number, byY: number) => new SvgOutline(data, byX, byY);
    const options = { scale: 1, picture, outline } as unknown as PaintOptions;
    return { canvas, fonts: paintScreen(canvas as unknown as OffscreenCanvasRenderingContext2D, screen, options) };
  }

  private async fetch(asset: string, kind: Kind): Promise<void> {
    if (!this.pictures.has(asset)) this.pictures.set(asset, await this.sources.picture(asset, kind));
  }
}

/** A rule for a face, with its file as an address that holds it. */
export const faceRule = (family: string, weight: string, data: string): string =>
  `@font-face{font-family:'${family}';font-weight:${weight};src:url(${data}) format('woff2')}`;
