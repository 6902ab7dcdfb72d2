import { onceFor } from '../../once.ts';
import type { Piece } from '../../piece/piece.ts';
import { programOf } from '../audited.ts';
import { toScxml } from '../scxml.ts';
import { defineExport } from './define.ts';

/** Made once for a piece, whoever asks for the file and whoever for what it leaves out. */
const flowOf = onceFor((piece: Piece) => toScxml(programOf(piece)));

export const chart = defineExport({
  kind: 'scxml',
  group: 'build',
  label: 'State chart',
  act: 'Save the chart',
  ending: '.scxml',
  mediaType: 'application/scxml+xml',
  meaning: 'the flow as State Chart XML (W3C): frames and states, cues, conditions and timers, for programs that read it',
  write: (piece) => flowOf(piece).xml,
  omits: (piece) => flowOf(piece).omitted,
});
