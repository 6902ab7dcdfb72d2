/// <reference lib="webworker" />
import dagre from '@dagrejs/dagre';
import { inColumns } from './columns';
import { areBundled, inBundles } from './in-bundles';
import type { LayoutAnswer, LayoutTask } from './layout';
import { withThoseUnder } from './under';

/** With more links than this the layout that minds each of them takes seconds, and soon minutes. */
const MOST_LINKS = 150;

/** Places frames from left to right by flow, or by bundles; those that are only laid over another stand under it. */
onmessage = ({ data }: MessageEvent<LayoutTask>) => {
  const { version, start, under } = data;
  const layout = (task: Frames): Omit<LayoutAnswer, 'version'> => {
    if (areBundled(task.frames)) return inBundles(task.frames, task.links, start);
    return task.links.length > MOST_LINKS ? inColumns(task.frames, task.links, start) : byFlow(task);
  };
  postMessage({ version, ...withThoseUnder({ ...data, under }, layout) } satisfies LayoutAnswer);
};

type Frames = Pick<LayoutTask, 'frames' | 'links'>;

/** Those that nothing leads to or from stand in columns after it. */
function byFlow({ frames, links }: Frames): Omit<LayoutAnswer, 'version'> {
  const linked = new Set(links.flat());
  const graph = new dagre.graphlib.Graph();
  graph.setGraph({ rankdir: 'LR', nodesep: 48, ranksep: 120, marginx: 40, marginy: 40 });
  graph.setDefaultEdgeLabel(() => ({}));
  for (const frame of frames) if (linked.has(frame.id)) graph.setNode(frame.id, { width: frame.width, height: frame.height });
  for (const [from, to] of links) graph.setEdge(from, to);
  dagre.layout(graph);
  const places = new Map<string, { x: number; y: number }>();
  for (const frame of frames) {
    const node = linked.has(frame.id) ? graph.node(frame.id) : undefined;
    if (node) places.set(frame.id, { x: node.x - frame.width / 2, y: node.y - frame.height / 2 });
  }
  const { width = 0, height = 0 } = linked.size ? (graph.graph() as { width?: number; height?: number }) : {};
  const flow = { width: linked.size ? width : 0, height: linked.size ? height : 0 };
  return { places, ...placeLoose(frames, linked, places, flow) };
}

function placeLoose(
  frames: LayoutTask['frames'],
  linked: ReadonlySet<string>,
  places: Map<string, { x: number; y: number }>,
  flow: { width: number; height: number }
): { width: number; height: number } {
  const most = Math.max(flow.height, 640);
  let x = Math.max(40, flow.width + 20);
  let y = 40;
  let column = 0;
  let bottom = flow.height;
  for (const frame of frames) {
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
