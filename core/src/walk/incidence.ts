/** Pairs of whole numbers, as bits: for the first of a pair all that stand with it, and for the second. */
export class Incidence {
  /** So many words of 32 bits are kept; null once there were too many, and nothing is. */
  private words: number | null = 0;
  private firsts: Set32[] = [];
  private seconds: Set32[] = [];

  constructor(private readonly most = MOST_WORDS) {}

  /** Whether all pairs are kept. */
  get isWhole(): boolean {
    return this.words !== null;
  }

  put(first: number, second: number): void {
    this.add(this.firsts, first, second);
    this.add(this.seconds, second, first);
  }

  /** Puts a number into a set; nothing is kept any longer where there is no more room. */
  add(sets: Set32[], at: number, number: number): void {
    if (this.words === null) return;
    while (sets.length <= at) sets.push(NOTHING);
    const set = sets[at]!;
    const word = number >> 5;
    if (word < set.length) {
      set[word]! |= 1 << (number & 31);
      return;
    }
    const more = new Uint32Array(Math.max(word + 1, set.length * 2));
    more.set(set);
    more[word] = 1 << (number & 31);
    sets[at] = more;
    this.words += more.length - set.length;
    if (this.words > this.most) this.drop();
  }

  has(first: number, second: number): boolean {
    return isIn(this.seconds[second], first);
  }

  private drop(): void {
    this.words = null;
    this.firsts = [];
    this.seconds = [];
  }

  /** Goes over what of a set does not stand with the first of pairs, as long as it does not. */
  eachOther(set: Set32 | undefined, first: number, visit: (second: number) => void): void {
    if (set) eachBeyond(set, () => this.firsts[first], visit);
  }

  /** The same of the second. */
  eachOtherWith(set: Set32 | undefined, second: number, visit: (first: number) => void): void {
    if (set) eachBeyond(set, () => this.seconds[second], visit);
  }
}

/** A set of whole numbers, 32 to a word. */
export type Set32 = Uint32Array<ArrayBuffer>;

export const isIn = (set: Set32 | undefined, number: number): boolean =>
  set !== undefined && number >> 5 < set.length && (set[number >> 5]! & (1 << (number & 31))) !== 0;

const NOTHING: Set32 = new Uint32Array(0);

/** Goes over what is in one set and not in another, which may grow meanwhile. */
function eachBeyond(set: Set32, other: () => Set32 | undefined, visit: (number: number) => void): void {
  let but = other() ?? NOTHING;
  for (let i = 0; i < set.length; i++) {
    let left = i < but.length ? set[i]! & ~but[i]! : set[i]!;
    if (left === 0) continue;
    for (; left !== 0; left &= left - 1) visit(i * 32 + 31 - Math.clz32(left & -left));
    but = other() ?? NOTHING;
  }
}

/** 64 megabytes. */
const MOST_WORDS = 2 ** 24;
