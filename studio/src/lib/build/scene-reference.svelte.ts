import { keepReference, keptReference, type KeptReference } from '$lib/client/reference-store';
import type { ReferencePicture } from './Reference.svelte';

const KEEP_AFTER = 300;

/**
 * The picture that a scene is compared with: one for each scene, kept in this browser, since it is a help to the one who draws
 * and no part of the piece. To be made while a component is set up.
 */
export class SceneReference {
  picture: ReferencePicture | null = $state.raw(null);
  private file: Blob | null = null;
  /** The scene that the picture is of, which may not be open any more. */
  private of: string | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly piece: string,
    private readonly scene: () => string | null
  ) {
    $effect(() => {
      const id = scene();
      if (id !== null) void this.load(id);
      return () => this.hide();
    });
  }

  /** Lays a picture over the scene. */
  lay(file: File): void {
    this.hide();
    this.show(file, { over: true, opacity: 0.5, wipe: 0 });
    this.keep();
  }

  change(picture: ReferencePicture): void {
    this.picture = picture;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.keep(), KEEP_AFTER);
  }

  /** Takes it off the stage once it is kept no more: a reload right after does not bring it back. */
  async remove(): Promise<void> {
    this.forgetTimer();
    const { of, file } = this;
    if (of !== null) await keepReference(this.piece, of, null).catch(() => undefined);
    if (this.file !== file) return;
    this.forgetTimer();
    this.hide();
  }

  private async load(id: string): Promise<void> {
    const kept = await keptReference(this.piece, id).catch(() => null);
    if (kept && this.scene() === id && !this.picture) this.show(kept.file, kept);
  }

  private show(file: Blob, { over, opacity, wipe }: Omit<KeptReference, 'file'>): void {
    this.file = file;
    this.of = this.scene();
    this.picture = { url: URL.createObjectURL(file), over, opacity, wipe };
  }

  /** Takes it off the stage; what was changed last and is not kept yet is kept now. */
  private hide(): void {
    if (this.timer !== undefined) this.keep();
    if (this.picture) URL.revokeObjectURL(this.picture.url);
    this.picture = this.file = null;
  }

  private forgetTimer(): void {
    clearTimeout(this.timer);
    this.timer = undefined;
  }

  private keep(): void {
    this.forgetTimer();
    if (this.of === null || !this.picture || !this.file) return;
    const { over, opacity, wipe } = this.picture;
    void keepReference(this.piece, this.of, { file: this.file, over, opacity, wipe }).catch(() => undefined);
  }
}
