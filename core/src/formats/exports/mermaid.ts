import { defineExport } from './define.ts';
import { edgeWords, flowOf, FLOW_OMITS } from './graph.ts';

/** A text in a label: between quotes, with what would end it as an entity. */
const quoted = (text: string): string => `"${text.replace(/\s+/g, ' ').replace(/[#"<>&`]/g, (sign) => `#${sign.charCodeAt(0)};`)}"`;

/** A flowchart in Mermaid's language, to stand in texts. */
export const mermaid = defineExport({
  kind: 'mermaid',
  group: 'graph',
  label: 'Flow as Mermaid',
  act: 'Save the flowchart',
  ending: '.mmd',
  mediaType: 'text/plain; charset=utf-8',
  meaning: 'the same as a flowchart that stands in a text, for wikis and notes',
  omits: () => FLOW_OMITS,
  write: (piece) => {
    const { nodes, edges } = flowOf(piece);
    const ids = new Map(nodes.map(({ id }, i) => [id, `n${i}`] as const));
    const shape = ({ kind, name, begins }: (typeof nodes)[number]) =>
      kind === 'frame' ? (begins ? `([${quoted(name)}])` : `[${quoted(name)}]`) : kind === 'address' ? `>${quoted(name)}]` : `((${quoted(name)}))`;
    const arrow = { goes: '-->', 'lays over': '-.->', opens: '==>' } as const;
    return `flowchart LR
${nodes.map((node) => `  ${ids.get(node.id)}${shape(node)}`).join('\n')}
${edges.map((edge) => `  ${ids.get(edge.from)} ${arrow[edge.kind]}|${quoted(edgeWords(edge))}| ${ids.get(edge.to)}`).join('\n')}
`;
  },
});
