import { Folded } from '$lib/shared/folded.svelte';

/** How the shelf is looked at: kept in this browser, the folded bundles for each piece. */

const SIZE = 'zany-shelf-size';

export class ShelfLook {
  private readonly bundles: Folded;
  /** Names in rows, and no pictures. */
  isSmall = $state(false);

  constructor(piece: string) {
    this.bundles = new Folded(`zany-shelf-folded-${piece}`);
    this.isSmall = localStorage.getItem(SIZE) === 'small';
  }

  get folded(): ReadonlySet<string> {
    return this.bundles.all;
  }

  fold(bundles: readonly string[], isFolded: boolean): void {
    this.bundles.fold(bundles, isFolded);
  }

  size(isSmall: boolean): void {
    this.isSmall = isSmall;
    localStorage.setItem(SIZE, isSmall ? 'small' : 'pictures');
  }
}
