import { defineExport } from './define.ts';
import { edgeWords, flowOf, FLOW_OMITS } from './graph.ts';

const quoted = (text: string): string => `"${text.replaceAll('\\', '\\\\').replaceAll('"', '\\"').replace(/\s+/g, ' ')}"`;

/** The DOT language (graphviz.org): bundles as clusters, frames laid over by dashed edges. */
export const dot = defineExport({
  kind: 'dot',
  group: 'graph',
  label: 'Flow as DOT',
  act: 'Save the drawing',
  ending: '.dot',
  mediaType: 'text/vnd.graphviz; charset=utf-8',
  meaning: 'the same to be drawn by Graphviz: bundles as clusters, frames laid over with dashed lines',
  omits: () => FLOW_OMITS,
  write: (piece) => {
    const { nodes, edges } = flowOf(piece);
    const shape = { frame: 'box', back: 'cds', anywhere: 'ellipse', address: 'note' } as const;
    const line = (node: (typeof nodes)[number]) =>
      `${quoted(node.id)} [label=${quoted(node.name)}, shape=${shape[node.kind]}${node.begins ? ', penwidth=2' : ''}];`;
    const bundles = [...new Set(nodes.flatMap(({ bundle }) => bundle ?? []))];
    const clusters = bundles.map(
      (bundle, i) => `  subgraph cluster_${i} {
    label=${quoted(bundle)};
${nodes
  .filter((node) => node.bundle === bundle)
  .map((node) => `    ${line(node)}`)
  .join('\n')}
  }`
    );
    return `digraph ${quoted(piece.head.name)} {
  rankdir=LR;
${clusters.join('\n')}
${nodes
  .filter(({ bundle }) => bundle === null)
  .map((node) => `  ${line(node)}`)
  .join('\n')}
${edges.map((edge) => `  ${quoted(edge.from)} -> ${quoted(edge.to)} [label=${quoted(edgeWords(edge))}${edge.kind === 'goes' ? '' : `, style=${edge.kind === 'opens' ? 'dotted' : 'dashed'}`}];`).join('\n')}
}
`;
  },
});
