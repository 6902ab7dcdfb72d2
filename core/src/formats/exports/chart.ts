import { compile } from '../../program/compile.ts';
import { toScxml } from '../scxml.ts';
import { defineExport } from './define.ts';

export const chart = defineExport({
  kind: 'scxml',
  label: 'State chart',
  act: 'Save the chart',
  ending: '.scxml',
  mediaType: 'application/scxml+xml',
  meaning: 'the flow as State Chart XML (W3C): frames and states, cues, conditions and timers, for programs that read it',
  write: (piece) => toScxml(compile(piece)).xml,
  omits: (program) => toScxml(program).omitted,
});
