/// <reference lib="webworker" />
import dagre from '@dagrejs/dagre';
import { inColumns } from './columns';
import { areBundled, inBundles } from './in-bundles';
import type { LayoutAnswer, LayoutTask } from './layout';

/** With more links than this the layout that minds each of them takes seconds, and soon minutes. */
const MOST_LINKS = 150;

/** Places frames from left to right by flow; those that nothing leads to or from stand in columns after it. */
onmessage = ({ data }: MessageEvent<LayoutTask>) => {
  if (areBundled(data.frames))
    return postMessage({ version: data.version, ...inBundles(data.frames, data.links, data.start) } satisfies LayoutAnswer);
  if (data.links.length > MOST_LINKS) {
    const answer: LayoutAnswer = { version: data.version, ...inColumns(data.frames, data.links, data.start) };
    return postMessage(answer);
  }
  const linked = new Set(data.links.flat());
  const graph = new dagre.graphlib.Graph();
  graph.setGraph({ rankdir: 'LR', nodesep: 48, ranksep: 120, marginx: 40, marginy: 40 });
  graph.setDefaultEdgeLabel(() => ({}));
  for (const frame of data.frames) if (linked.has(frame.id)) graph.setNode(frame.id, { width: frame.width, height: frame.height });
  for (const [from, to] of data.links) graph.setEdge(from, to);
  dagre.layout(graph);
  const places = new Map<string, { x: number; y: number }>();
  for (const frame of data.frames) {
    const node = linked.has(frame.id) ? graph.node(frame.id) : undefined;
    if (node) places.set(frame.id, { x: node.x - frame.width / 2, y: node.y - frame.height / 2 });
  }
  const { width = 0, height = 0 } = linked.size ? (graph.graph() as { width?: number; height?: number }) : {};
  const flow = { width: linked.size ? width : 0, height: linked.size ? height : 0 };
  const answer: LayoutAnswer = { version: data.version, places, ...placeLoose(data, linked, places, flow) };
  postMessage(answer);
};

function placeLoose(
  data: LayoutTask,
  linked: ReadonlySet<string>,
  places: Map<string, { x: number; y: number }>,
  flow: { width: number; height: number }
): { width: number; height: number } {
  const most = Math.max(flow.height, 640);
  let x = Math.max(40, flow.width + 20);
  let y = 40;
  let column = 0;
  let bottom = flow.height;
  for (const frame of data.frames) {
    if (linked.has(frame.id)) continue;
    if (y > 40 && y + frame.height > most) {
      x += column + 56;
      y = 40;
      column = 0;
    }
    places.set(frame.id, { x, y });
    column = Math.max(column, frame.width);
    bottom = Math.max(bottom, y + frame.height + 40);
    y += frame.height + 48;
  }
  return { width: Math.max(flow.width, column ? x + column + 40 : 0), height: bottom };
}
