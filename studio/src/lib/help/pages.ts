import expressions from '../../../../docs/expressions.md?raw';
import guide from '../../../../docs/guide.md?raw';
import threadLines from '../../../../docs/thread-lines.md?raw';
import { entriesIn } from './guide';

/** All that the guide says, in the order of its pages. */
export const guideEntries = [guide, threadLines, expressions].flatMap(entriesIn);
