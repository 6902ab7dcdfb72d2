import type { LinkMay } from '$lib/shared/rights';
import type { Person } from '$lib/shared/types';

/** Somebody who holds a review link, has said a name, and knows its password where it has one. */
export interface Holder {
  readonly kind: 'holder';
  /** One for each browser that opened the link. */
  readonly id: string;
  readonly name: string;
  readonly link: string;
  readonly piece: string;
  readonly may: LinkMay;
}

/** A box of buttons that has a key for one piece. */
export interface PadBox {
  readonly kind: 'pad';
  readonly piece: string;
}

/** Who asks: a person who has signed in, the holder of a review link, a pad, or nobody that is known. */
export type Principal = Person | Holder | PadBox | null;

export const isPerson = (who: Principal): who is Person => who !== null && 'email' in who;

export const isHolder = (who: Principal): who is Holder => who !== null && 'kind' in who && who.kind === 'holder';
