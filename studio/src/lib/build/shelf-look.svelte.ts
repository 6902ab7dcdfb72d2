import { kept } from '$lib/shared/kept';

/** How the shelf is looked at: kept in this browser, the folded bundles for each piece. */

const SIZE = 'zany-shelf-size';
const foldedOf = (piece: string) => `zany-shelf-folded-${piece}`;

export class ShelfLook {
  folded: ReadonlySet<string> = $state.raw(new Set());
  /** Names in rows, and no pictures. */
  isSmall = $state(false);

  constructor(private readonly piece: string) {
    const folded = kept(foldedOf(piece));
    if (Array.isArray(folded)) this.folded = new Set(folded.filter((one) => typeof one === 'string'));
    this.isSmall = localStorage.getItem(SIZE) === 'small';
  }

  fold(bundles: readonly string[], isFolded: boolean): void {
    const folded = new Set(this.folded);
    for (const bundle of bundles)
      if (isFolded) folded.add(bundle);
      else folded.delete(bundle);
    this.folded = folded;
    localStorage.setItem(foldedOf(this.piece), JSON.stringify([...folded]));
  }

  size(isSmall: boolean): void {
    this.isSmall = isSmall;
    localStorage.setItem(SIZE, isSmall ? 'small' : 'pictures');
  }
}
