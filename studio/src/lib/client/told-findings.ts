import type { Finding } from '@zany/core';

/** A finding, or where the same one stands in the list that was told before. */
export type Told = Finding | number;

/**
 * The walk's worker tells the page what it finds after each edit, and most of it is what it was: to hand over thousands of findings with
 * their routes again would take the page longer than to draw the edit. So only what is otherwise is told anew.
 */
export class FindingsTeller {
  private last = new Map<string, readonly [at: number, words: string]>();
  private readonly words = new WeakMap<Finding, string>();

  tell(findings: readonly Finding[]): Told[] {
    const now = new Map<string, readonly [at: number, words: string]>();
    const told = findings.map((finding, at): Told => {
      const words = this.wordsOf(finding);
      now.set(finding.id, [at, words]);
      const known = this.last.get(finding.id);
      return known?.[1] === words ? known[0] : finding;
    });
    this.last = now;
    return told;
  }

  private wordsOf(finding: Finding): string {
    let words = this.words.get(finding);
    if (words === undefined) this.words.set(finding, (words = JSON.stringify(finding)));
    return words;
  }
}

/** The page's side of it: has to hear all that is told, in order. */
export class FindingsHearer {
  private last: readonly Finding[] = [];

  hear(told: readonly Told[]): readonly Finding[] {
    this.last = told.map((one) => (typeof one === 'number' ? this.last[one]! : one));
    return this.last;
  }
}
