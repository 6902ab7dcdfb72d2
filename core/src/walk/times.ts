import type { Ended } from '../run/recording.ts';
import { ends, type Wait } from './waits.ts';
import type { Slot, Slots } from './slots.ts';
import { NOTHING_WAITS, tiesIn, type Zone } from './zones.ts';

/** Columns of what waits, among those of slots: below all others. */
const FIRST_WAIT = -10;

/** What waits as a column: for asking what depends on what. */
export const columnOfWait = (wait: number): number => FIRST_WAIT - wait;

/** What waits, and zones of it, as numbers. */
export class Times {
  readonly waits: Wait[] = [];
  private readonly numbers = new Map<string, number>();
  private readonly slot: Slot;

  constructor(private readonly slots: Slots) {
    this.slot = slots.named('time');
  }

  numberOf(wait: Wait): number {
    const words = JSON.stringify(wait);
    let number = this.numbers.get(words);
    if (number === undefined) {
      this.numbers.set(words, (number = this.waits.length));
      this.waits.push(wait);
    }
    return number;
  }

  /** Of what waits, as far as its columns are asked about, all that an outcome ends. */
  endedBy(outcome: Parameters<Times['isEnded']>[0], isAsked: (column: number) => boolean): readonly number[] {
    return [...this.waits.keys()].filter((wait) => isAsked(columnOfWait(wait)) && this.isEnded(outcome, wait));
  }

  /** Whether what ended does anything to what waits. */
  isEnded({ ended, endedHeads }: { readonly ended: readonly Ended[]; readonly endedHeads: readonly number[] }, wait: number): boolean {
    return endedHeads.includes(wait) || ended.some((one) => ends(one, this.waits[wait]!));
  }

  /** The column of rows in which the number of a zone stands; -1 while nothing has ever waited. */
  get column(): number {
    return this.slot.column;
  }

  /** So many zones were told apart so far. */
  get count(): number {
    return this.slot.values.length;
  }

  zone = (number: number): Zone => (number === 0 ? NOTHING_WAITS : (this.slot.values[number] as Zone));

  private readonly kinds: number[] = [];
  private readonly kindNumbers = new Map<string, number>();

  /** One of the zones in which the same waits as in a zone, as long in all, in the same order; as long as each other there if they do so here. */
  kindOf(number: number): number {
    return (this.kinds[number] ??= this.numbered(number));
  }

  private numbered(number: number): number {
    const zone = this.zone(number);
    const words = `${zone.waits.join()} ${zone.spans.join()} ${tiesIn(zone)}`;
    const known = this.kindNumbers.get(words);
    if (known === undefined) this.kindNumbers.set(words, number);
    return known ?? number;
  }

  /** The number of a zone; 0 where nothing waits. */
  zoneNumber(zone: Zone): number {
    if (zone.waits.length === 0) return 0;
    return this.slots.keep(this.slot, `${zone.waits.join()} ${zone.spans.join()} ${zone.bounds.join()}`, zone);
  }
}
