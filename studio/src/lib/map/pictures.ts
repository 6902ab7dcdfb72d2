import { stillScreen, type Program, type Screen } from '@zany/core';
import { paintPicture } from '$lib/shared/thumb-paint';

/** Small pictures of frames for the map, painted a few at a time, and anew where their frames are another. */
export class FramePictures {
  private readonly kept = new Map<string, Kept>();

  constructor(
    private readonly assetUrl: (asset: string) => string,
    /** Takes a picture of a frame, or a better one. */
    private readonly take: (frame: string, picture: ImageBitmap) => void
  ) {}

  /** Asks for a frame in so many pixels for one of its own, where there is none as fine or it may be another now. */
  ask(program: Program, frame: string, scale: number): void {
    let kept = this.kept.get(frame);
    if (!kept) this.kept.set(frame, (kept = { program: null, scale: 0, painted: null, isPending: false, stop: null }));
    if (kept.program !== program || kept.scale < scale) this.paint(program, frame, scale, kept);
  }

  /** What is still to be painted has to be asked for again. */
  pause(): void {
    for (const kept of this.kept.values()) {
      if (!kept.isPending) continue;
      kept.stop?.();
      Object.assign(kept, { stop: null, isPending: false, program: null, scale: kept.painted?.scale ?? 0 });
    }
  }

  /** Whatever frames there are no more is let go. */
  keepOnly(frames: readonly string[]): void {
    const all = new Set(frames);
    for (const [frame, { stop }] of this.kept)
      if (!all.has(frame)) {
        stop?.();
        this.kept.delete(frame);
      }
  }

  end(): void {
    this.keepOnly([]);
  }

  private paint(program: Program, frame: string, scale: number, kept: Kept): void {
    kept.stop?.();
    kept.program = program;
    // In steps, so that not every turn of the wheel paints anew.
    kept.scale = Math.max(kept.scale, 2 ** Math.ceil(Math.log2(scale)));
    kept.isPending = true;
    const asked = kept.scale;
    let screen: Screen | null = null;
    // Painted again it is for what has come meanwhile: pictures, and letters.
    let isAgain = false;
    kept.stop = paintPicture(
      () => {
        screen = stillScreen(program, frame);
        const isKnown = !isAgain && kept.painted !== null && kept.painted.screen === screen && kept.painted.scale >= asked;
        isAgain = true;
        return screen === null || isKnown ? null : { screen, assetUrl: this.assetUrl, scale: asked };
      },
      (picture) => {
        kept.isPending = false;
        kept.painted = { screen: screen!, scale: asked };
        this.take(frame, picture.transferToImageBitmap());
      }
    );
  }
}

interface Kept {
  program: Program | null;
  /** As it was asked for last. */
  scale: number;
  /** What the picture shows, and in so many pixels for one. */
  painted: { readonly screen: Screen; readonly scale: number } | null;
  /** Whether what was asked for last is still to be painted. */
  isPending: boolean;
  /** Has it not painted again, when more of what it shows has come. */
  stop: (() => void) | null;
}
