import { escaped } from '../escaped.ts';
import { defineExport } from './define.ts';
import { edgeWords, flowOf, FLOW_OMITS } from './graph.ts';

/** GraphML (graphml.graphdrawing.org): frames as nodes, branches that lead on as edges with cue and condition. */
export const graphml = defineExport({
  kind: 'graphml',
  group: 'graph',
  label: 'Flow as GraphML',
  act: 'Save the graph',
  ending: '.graphml',
  mediaType: 'application/xml',
  meaning: 'frames and what leads from one to another, with cues and conditions, for programs that lay out or count graphs',
  omits: () => FLOW_OMITS,
  write: (piece) => {
    const { nodes, edges } = flowOf(piece);
    const key = (id: string, of: 'node' | 'edge', type = 'string') => `  <key id="${id}" for="${of}" attr.name="${id}" attr.type="${type}"/>`;
    const data = (id: string, value: string | number | boolean | null) =>
      value === null ? '' : `<data key="${id}">${escaped(String(value))}</data>`;
    return `<?xml version="1.0" encoding="UTF-8"?>
<graphml xmlns="http://graphml.graphdrawing.org/xmlns">
${[key('name', 'node'), key('kind', 'node'), key('begins', 'node', 'boolean'), key('bundle', 'node'), key('label', 'edge'), key('cue', 'edge'), key('condition', 'edge'), key('leads', 'edge'), key('thread', 'edge'), key('branch', 'edge', 'int')].join('\n')}
  <graph id="${escaped(piece.head.id)}" edgedefault="directed">
${nodes.map((node) => `    <node id="${escaped(node.id)}">${data('name', node.name)}${data('kind', node.kind)}${data('begins', node.begins)}${data('bundle', node.bundle)}</node>`).join('\n')}
${edges.map((edge, i) => `    <edge id="e${i}" source="${escaped(edge.from)}" target="${escaped(edge.to)}">${data('label', edgeWords(edge))}${data('cue', edge.cue)}${data('condition', edge.condition)}${data('leads', edge.kind)}${data('thread', edge.thread)}${data('branch', edge.branch)}</edge>`).join('\n')}
  </graph>
</graphml>
`;
  },
});
