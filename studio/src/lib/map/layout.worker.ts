/// <reference lib="webworker" />
import dagre from '@dagrejs/dagre';
import type { LayoutAnswer, LayoutTask } from './layout';

/** Places frames from left to right by flow; those that nothing leads to or from stand in rows below. */
onmessage = ({ data }: MessageEvent<LayoutTask>) => {
  const linked = new Set(data.links.flat());
  const graph = new dagre.graphlib.Graph();
  graph.setGraph({ rankdir: 'LR', nodesep: 56, ranksep: 110, marginx: 40, marginy: 40 });
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
  const size = placeLoose(data, linked, places, Math.max(0, width), linked.size ? Math.max(0, height) : 0);
  const answer: LayoutAnswer = { version: data.version, places, ...size };
  postMessage(answer);
};

function placeLoose(data: LayoutTask, linked: ReadonlySet<string>, places: Map<string, { x: number; y: number }>, width: number, height: number): { width: number; height: number } {
  const most = Math.max(width, 900);
  let x = 40;
  let y = height + 40;
  let row = 0;
  let right = width;
  for (const frame of data.frames) {
    if (linked.has(frame.id)) continue;
    if (x > 40 && x + frame.width > most) {
      x = 40;
      y += row + 60;
      row = 0;
    }
    places.set(frame.id, { x, y });
    row = Math.max(row, frame.height);
    right = Math.max(right, x + frame.width + 40);
    x += frame.width + 56;
  }
  return { width: right, height: y + row + 40 };
}
