import { kept } from './kept';

/** Which bundles of a piece somebody has folded somewhere: kept in this browser under a name. */
export class Folded {
  private folded: ReadonlySet<string> = $state.raw(new Set());

  constructor(private readonly name: string) {
    const found = kept(name);
    if (Array.isArray(found)) this.folded = new Set(found.filter((one) => typeof one === 'string'));
  }

  get all(): ReadonlySet<string> {
    return this.folded;
  }

  fold(bundles: readonly string[], isFolded: boolean): void {
    const folded = new Set(this.folded);
    for (const bundle of bundles)
      if (isFolded) folded.add(bundle);
      else folded.delete(bundle);
    this.folded = folded;
    localStorage.setItem(this.name, JSON.stringify([...folded]));
  }
}
