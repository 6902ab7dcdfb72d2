import { describe, expect, test } from 'vitest';
import { entriesIn, foundIn, wordsOf } from './guide';
import { guideEntries } from './pages';

const page = `# Guide

For all who sail.

## Wire

- \`Enter\` writes a [thread](thread-lines.md); see [the pier](https://pier.example).
- A second point,
  over two lines.

### Many at once

![Pairs](pairs.png)

Pair up many.

## Walk

Every flow.

| sign | means |
| --- | --- |
| + | and |

    click → back
`;

describe('the guide', () => {
  test('is taken apart into paragraphs and points, with the headings above each', () => {
    expect(entriesIn(page)).toEqual([
      { section: 'Guide', text: 'For all who sail.' },
      { section: 'Wire', text: '`Enter` writes a thread; see [the pier](https://pier.example).' },
      { section: 'Wire', text: 'A second point, over two lines.' },
      { section: 'Wire · Many at once', text: 'Pair up many.' },
      { section: 'Walk', text: 'Every flow.' },
      { section: 'Walk', text: '+ — and' },
      { section: 'Walk', text: 'click → back' },
    ]);
  });

  test('is found by all words, whatever their case, what is headed by one first', () => {
    const entries = entriesIn('# G\n\n## Walk\n\nThe way.\n\n## Map\n\nEvery walk there is.\n\n## Walk on\n\nFurther on a walk.\n');
    const found = (query: string) => foundIn(entries, wordsOf(query)).map(({ text }) => text);
    expect(found('WALK')).toEqual(['The way.', 'Further on a walk.', 'Every walk there is.']);
    expect(found(' walk   every ')).toEqual(['Every walk there is.']);
    expect(found('kiosk')).toEqual([]);
    expect(found('  ')).toEqual([]);
  });

  test('as it is written leads nowhere but out, and says something of what people ask for', () => {
    expect(guideEntries.filter(({ text }) => /\]\((?!https?:)|!\[/.test(text))).toEqual([]);
    for (const query of ['hover', 'carousel', 'csv', 'loose end', 'back', 'keyframe', 'export', 'variable'])
      expect(foundIn(guideEntries, wordsOf(query)).length, query).toBeGreaterThan(0);
  });
});
