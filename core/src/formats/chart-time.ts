import { named as escape } from './escaped.ts';
import type { Call } from './chart.ts';
import { token } from './chart-names.ts';
import type { Timeline } from '../piece/schema.ts';
import { placeOf } from '../program/binding.ts';
import { expand } from '../program/expand.ts';
import { outwardNodes, statesAround, type Instance, type Node } from '../program/node.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import { playable } from '../run/heads.ts';
import { framesPerSecond, marksOf, sectionsOf, spansOf, type Section } from '../run/playhead.ts';
import type { Step, StepOf } from '../vocabulary/steps/all.ts';

/**
 * Timelines in a state chart. Each has in the data the name of the section it is in (`t_…`), the timeline frame it came to last, and
 * whether it plays; a delayed send brings it to what comes next on it: the end of a section, a cue, an edge of a span. One that can be
 * paused on its way goes from frame to frame.
 */

/** A timeline that a chart tells of: of a scene on the screen, or of what is placed in it. */
export interface Told {
  readonly name: string;
  readonly root: SceneProgram;
  readonly instance: Instance;
  readonly timeline: Timeline;
  readonly sections: readonly Section[];
  /** What tells whether it is there, where it comes and goes with spans; null for what always is. */
  readonly there: string | null;
}

/** Steps about timelines. */
const TIME_STEPS = ['play', 'pause', 'start over', 'show label', 'section'] as const;
export type TimeStep = StepOf<(typeof TIME_STEPS)[number]>;
export const isTimeStep = (step: Step): step is TimeStep => (TIME_STEPS as readonly Step['do'][]).includes(step.do);

/** Whether what follows a step waits for a section to end. */
export const playsOn = (step: Step): boolean => step.do === 'play' || step.do === 'start over' || step.do === 'section';

const assign = (location: string, expr: string | number | boolean): string => `<assign location="${location}" expr="${escape(String(expr))}"/>`;

const when = (cond: string, then: readonly string[], otherwise: readonly string[] = []): string[] =>
  then.length + otherwise.length === 0
    ? []
    : [`<if cond="${escape(cond)}">`, ...then, ...(otherwise.length ? ['<else/>', ...otherwise] : []), '</if>'];

/** The first of several conditions that holds. */
const oneOf = (cases: readonly (readonly [cond: string, then: readonly string[]])[], otherwise: readonly string[] = []): string[] =>
  cases.length === 0
    ? [...otherwise]
    : [
        ...cases.flatMap(([cond, then], i) => [`<${i === 0 ? 'if' : 'elseif'} cond="${escape(cond)}"${i === 0 ? '' : '/'}>`, ...then]),
        ...(otherwise.length ? ['<else/>', ...otherwise] : []),
        '</if>',
      ];

export class ChartTime {
  /** What cannot be said, by name. */
  readonly omitted: readonly string[];
  private readonly told = new Map<string, Told>();
  /** Timelines that can stop on their way. */
  private readonly stopping = new Set<string>();
  /** Timelines whose sections' ends steps wait for. */
  private readonly awaited = new Set<string>();
  /** Events of labels that threads wait for. */
  private readonly heard = new Set<string>();

  constructor(
    private readonly program: Program,
    roots: readonly SceneProgram[],
    calls: readonly Call[]
  ) {
    const shownBySteps = new Set(
      calls.flatMap((call) => stepsOf(call).flatMap((step) => (step.do === 'show' && step.layer !== null ? [this.keyOf(call, step.layer)] : [])))
    );
    const omitted = new Set<string>();
    for (const root of roots)
      for (const instance of expand(program, root).instances.values()) {
        const { timeline, name } = instance.scene.scene;
        if (!timeline) continue;
        if (timeline.tracks && Object.keys(timeline.tracks).length > 0) omitted.add(`what moves on the timeline of ${name}`);
        const around = outwardNodes(instance.placement);
        const there = around.some((node) => shownBySteps.has(node.key) || comesAndGoes(node)) ? null : this.thereOf(root, instance.placement);
        if (there === null) omitted.add(`when the timeline of ${instance.placement!.layer.name} plays, as it comes and goes`);
        else if (there && instance.placement!.layer.reentry === 'go on')
          omitted.add(`that the timeline of ${instance.placement!.layer.name} goes on where it was`);
        else this.add({ name: token(root, instance.key), root, instance, timeline, sections: sectionsOf(timeline), there: there || null });
      }
    for (const told of this.told.values()) this.noteCues(told, omitted);
    for (const call of calls) this.noteCall(call);
    this.omitted = [...omitted];
  }

  private add = (told: Told): unknown => this.told.set(`${told.root.scene.id} ${told.instance.key}`, told);

  get(root: SceneProgram, { key }: Instance): Told | undefined {
    return this.told.get(`${root.scene.id} ${key}`);
  }

  in = (root: SceneProgram): readonly Told[] => [...this.told.values()].filter((one) => one.root === root);

  private keyOf = ({ instance }: Call, of: string): string => (instance ? placeOf(this.program, instance, of) : of);

  /** What a cue on a timeline is about. */
  private cued({ root, instance }: Told, layer: string): readonly Node[] {
    const node = expand(this.program, root).byKey.get(instance.key ? `${instance.key}/${layer}` : layer);
    return node ? [...playable(node)] : [];
  }

  private noteCues(told: Told, omitted: Set<string>): void {
    const { root, instance, timeline } = told;
    for (const cue of Object.values(timeline.cues ?? {})) {
      for (const one of this.cued(told, cue.layer)) {
        if (one.inside && !one.inside.scene.scene.timeline) continue;
        const played = one.inside && this.get(root, one.inside);
        if (!played) omitted.add(`that the timeline of ${instance.scene.scene.name} has ${one.layer.name} ${cue.do}`);
        else if (cue.do === 'pause') this.stopping.add(played.name);
      }
    }
  }

  private noteCall(call: Call): void {
    const { cue, branches } = call.thread;
    const own = call.root && call.instance ? this.get(call.root, call.instance) : undefined;
    if (cue.type === 'label' && cue.label !== null && own) this.heard.add(this.labelEvent(own, cue.label));
    for (const { steps } of branches)
      for (const [at, step] of steps.entries()) {
        if (!isTimeStep(step)) continue;
        for (const { name } of this.placesOf(call).flatMap((root) => this.subjects(call, step, root) ?? [])) {
          if (step.do === 'pause') this.stopping.add(name);
          if (playsOn(step) && at < steps.length - 1) this.awaited.add(name);
        }
      }
  }

  /** The scenes on the screen that a thread stands in; one of the piece means whichever frame it is in. */
  private placesOf = ({ root }: Call): readonly SceneProgram[] => (root ? [root] : this.program.frames.map((id) => this.program.scenes.get(id)!));

  /** Whether all timelines that a step may be about are told. */
  tells = (call: Call, step: TimeStep): boolean => this.placesOf(call).every((root) => this.subjects(call, step, root) !== null);

  /** What tells whether a node is there in the spans around it: an expression, '' where it always is; null where that is not known. */
  private thereOf(root: SceneProgram, node: Node | null): string | null {
    const all: string[] = [];
    for (const one of outwardNodes(node)) {
      const { timeline } = one.instance.scene.scene;
      const spans = timeline && spansOf(timeline).get(one.layer.id);
      if (!spans) continue;
      const told = this.get(root, one.instance);
      if (!told) return null;
      all.push(`(${spans.map(({ from, to }) => `${at(told)} >= ${from} && ${at(told)} <= ${to}`).join(' || ')})`);
    }
    return all.join(' && ');
  }

  /** What must hold for a layer to be there in the spans around it; '' where it always is. */
  guardOf = (root: SceneProgram, node: Node): string => this.thereOf(root, node) ?? '';

  labelEvent = (told: Told, label: string): string => `label.${told.name}.${label}`;

  // ── what stands in the chart ─────────────────────────────────────────────────

  data(): string[] {
    const line = (id: string, expr: string | number | boolean) => `    <data id="${id}" expr="${escape(String(expr))}"/>`;
    const all = [...this.told.values()].flatMap((told) => [
      line(section(told), JSON.stringify(this.nameAt(told, 0))),
      line(at(told), 0),
      line(plays(told), false),
      line(turn(told), 0),
      ...(hasRounds(told) ? [line(rounds(told), 0)] : []),
      ...(told.there ? [line(there(told), false), line(seen(told), false)] : []),
      ...(this.awaited.has(told.name) ? [line(waiting(told), '[]')] : []),
    ]);
    return all.length > 0 ? [...all, line(NEXT, 0)] : [];
  }

  /** A scene comes onto the screen. */
  begins(root: SceneProgram): string[] {
    const all = this.in(root);
    return [
      ...all.flatMap((told) => [
        assign(at(told), 0),
        assign(plays(told), false),
        assign(turn(told), `${turn(told)} + 1`),
        ...(told.there ? [assign(there(told), false), assign(seen(told), false)] : []),
      ]),
      ...all.flatMap((told) => (told.there ? this.presence(told) : this.starts(told))),
    ];
  }

  /** What is done when timelines of a scene come to what is next on them, after the lines that anything from outside begins with. */
  transitions(root: SceneProgram, before: readonly string[]): string[] {
    return this.in(root).flatMap((told) => [
      `<transition event="${timeEvent(told)}" cond="_event.data.at === ${turn(told)}">`,
      ...[
        ...before,
        assign(NEXT, this.next(told)),
        ...oneOf(
          told.sections.map((one) => [`${NEXT} === ${one.to + 1}`, this.ends(told, one)] as const),
          [assign(at(told), NEXT), ...this.arrived(told)]
        ),
        ...this.goes(told),
      ].map((line) => `  ${line}`),
      '</transition>',
    ]);
  }

  /** The timelines that a step is about, for a thread in a frame; null where it is about something that is not told. */
  subjects(call: Call, step: TimeStep, frame: SceneProgram): readonly Told[] | null {
    if (step.of === undefined) {
      const root = call.root ?? frame;
      const instance = call.instance ?? expand(this.program, root).instances.get('')!;
      if (!instance.scene.scene.timeline) return [];
      return this.known([this.get(root, instance)], step);
    }
    const key = this.keyOf(call, step.of);
    const root = this.program.scenes.get(this.program.piece.layers.get(key.split('/', 1)[0]!)?.scene ?? '');
    const node = root && expand(this.program, root).byKey.get(key);
    if (!node) return null;
    const isOne = step.do === 'section' || step.do === 'show label' || (step.do === 'play' && step.from !== undefined);
    const all = isOne ? [node] : [...playable(node)];
    if (all.some(({ inside }) => !inside)) return null;
    return this.known(
      all.flatMap(({ inside }) => (inside!.scene.scene.timeline ? [this.get(root, inside!)] : [])),
      step
    );
  }

  private known(all: readonly (Told | undefined)[], step: TimeStep): readonly Told[] | null {
    if (!all.every((one) => one !== undefined)) return null;
    const label = labelOf(step);
    const isBeyond = (told: Told) => (told.timeline.labels?.[label ?? '']?.time ?? 0) >= told.timeline.length;
    return label && all.some(isBeyond) ? null : all;
  }

  /** Does a step to a timeline. */
  does(step: TimeStep, told: Told): string[] {
    const label = labelOf(step);
    const to = label ? told.timeline.labels?.[label]?.time : undefined;
    if (label !== undefined && to === undefined) return [];
    switch (step.do) {
      case 'play':
        return to === undefined ? this.playsOn(told) : this.plays(told, to);
      case 'start over':
        return this.plays(told, 0);
      case 'show label':
        return [...this.puts(told, false, to!), assign(turn(told), `${turn(told)} + 1`)];
      case 'pause':
        return this.pauses(told);
      case 'section':
        return this.turns(told, step.to);
    }
  }

  /** Has an event wait for the end of the section that a timeline is in. */
  waitsFor = (told: Told, event: string, visit: string): string =>
    assign(waiting(told), `${waiting(told)}.concat([{ event: ${JSON.stringify(event)}, at: ${visit} }])`);

  /** The name of the section that a timeline is in, as an expression. */
  sectionOf = (root: SceneProgram, instance: Instance): string | null => {
    const told = this.get(root, instance);
    return told && !told.there ? section(told) : null;
  };

  // ── what happens on a timeline ───────────────────────────────────────────────

  private nameAt({ sections, timeline }: Told, frame: number): string {
    const label = sections.find(({ to }) => frame <= to)?.label ?? null;
    return label === null ? '' : timeline.labels![label]!.name;
  }

  private next = (told: Told): string =>
    this.stopping.has(told.name) ? `${at(told)} + 1` : `${JSON.stringify(stopsOf(told))}.filter(function (one) { return one > ${at(told)}; })[0]`;

  /** It has come to a frame that is known, or was brought there. */
  private comesTo = (told: Told, frame: number): string[] => [
    assign(at(told), frame),
    assign(section(told), JSON.stringify(this.nameAt(told, frame))),
    ...this.setOffAt(told, frame),
    ...this.presenceIn(told),
  ];

  /** It has come to the frame that stands in the data. */
  private arrived(told: Told): string[] {
    const last = told.sections.at(-1)!;
    const name = told.sections
      .slice(0, -1)
      .reduceRight(
        (rest, one) => `${at(told)} <= ${one.to} ? ${JSON.stringify(this.nameAt(told, one.from))} : ${rest}`,
        JSON.stringify(this.nameAt(told, last.from))
      );
    const frames = new Set([...Object.values(told.timeline.labels ?? {}), ...Object.values(told.timeline.cues ?? {})].map(({ time }) => time));
    const setOff = [...frames]
      .map((frame) => [`${at(told)} === ${frame}`, this.setOffAt(told, frame)] as const)
      .filter(([, lines]) => lines.length > 0);
    return [assign(section(told), name), ...oneOf(setOff), ...this.presenceIn(told)];
  }

  /** What a frame of a timeline sets off: labels that are waited for, then cues. */
  private setOffAt(told: Told, frame: number): string[] {
    const { root, timeline } = told;
    const events = Object.entries(timeline.labels ?? {}).flatMap(([id, { time }]) => (time === frame ? [this.labelEvent(told, id)] : []));
    return [
      ...events.filter((event) => this.heard.has(event)).map((event) => `<raise event="${event}"/>`),
      ...Object.values(timeline.cues ?? {}).flatMap((cue) => {
        const cued = cue.time === frame ? this.cued(told, cue.layer) : [];
        const all = cued.flatMap(({ inside }) => (inside && this.get(root, inside)) ?? []);
        return all.flatMap((one) => (cue.do === 'pause' ? this.pauses(one) : cue.do === 'start over' ? this.plays(one, 0) : this.playsOn(one)));
      }),
    ];
  }

  /** The spans of a timeline bring what is placed there onto the screen, and take it off. */
  private presenceIn = (told: Told): string[] =>
    this.in(told.root)
      .filter((one) => one.there?.includes(`${at(told)} `))
      .flatMap((one) => this.presence(one));

  private presence(told: Told): string[] {
    if (!told.there) return [];
    const fresh = this.starts(told);
    const { reentry = 'start over' } = told.instance.placement!.layer;
    const comes = reentry === 'once' ? when(seen(told), [...this.stands(told, told.timeline.length - 1), ...this.goes(told)], fresh) : fresh;
    return [
      `<if cond="${escape(`(${told.there}) !== ${there(told)}`)}">`,
      assign(there(told), `!${there(told)}`),
      ...when(there(told), [...comes, assign(seen(told), true)], this.goes(told)),
      '</if>',
    ];
  }

  /** It is at a frame, and stands still there. */
  private stands = (told: Told, frame: number): string[] => [
    assign(at(told), frame),
    assign(section(told), JSON.stringify(this.nameAt(told, frame))),
    assign(plays(told), false),
    ...noRounds(told),
  ];

  /** It comes onto the screen. */
  private starts = (told: Told): string[] => [...this.puts(told, told.timeline.autoplay !== false, 0), ...this.goes(told)];

  private puts = (told: Told, isPlaying: boolean, frame: number): string[] => [
    assign(plays(told), isPlaying),
    ...noRounds(told),
    ...this.comesTo(told, frame),
  ];

  private plays = (told: Told, frame: number): string[] => [...this.puts(told, true, frame), ...this.goes(told)];

  private playsOn(told: Told): string[] {
    const lasts = JSON.stringify(told.sections.map(({ to }) => to));
    const { length } = told.timeline;
    const on = [assign(at(told), `${at(told)} + 1 >= ${length} ? 0 : ${at(told)} + 1`), ...this.arrived(told)];
    return when(`!${plays(told)}`, [
      assign(plays(told), true),
      ...noRounds(told),
      ...(length > 1 ? when(`${lasts}.indexOf(${at(told)}) >= 0`, on) : []),
      ...this.goes(told),
    ]);
  }

  private pauses = (told: Told): string[] => [assign(plays(told), false), assign(turn(told), `${turn(told)} + 1`)];

  private turns(told: Told, to: 'next' | 'previous'): string[] {
    const { sections } = told;
    const beside = (i: number) => sections[(i + (to === 'next' ? 1 : sections.length - 1)) % sections.length]!;
    return oneOf(
      sections.slice(0, -1).map((one, i) => [`${at(told)} <= ${one.to}`, this.plays(told, beside(i).from)] as const),
      this.plays(told, beside(sections.length - 1).from)
    );
  }

  /** What a section's ending says. */
  private ends(told: Told, { from, to, ending }: Section): string[] {
    const { timeline } = told;
    const move = (frame: number) => [...noRounds(told), ...this.comesTo(told, frame)];
    const hold = this.stands(told, to);
    const then = (): string[] => {
      if (ending.do === 'loop' && ending.times === undefined) return move(from);
      if (ending.do === 'loop')
        return when(`${rounds(told)} + 1 < ${ending.times}`, [assign(rounds(told), `${rounds(told)} + 1`), ...this.comesTo(told, from)], hold);
      const label = ending.do === 'go to' && ending.label !== null ? timeline.labels?.[ending.label] : undefined;
      if (label) return move(Math.min(label.time, timeline.length - 1));
      if (ending.do === 'go on' && to + 1 < timeline.length) return move(to + 1);
      return ending.do === 'go on' && timeline.loop ? move(0) : hold;
    };
    if (!this.awaited.has(told.name)) return then();
    return [
      ...then(),
      `<foreach item="_one" array="${waiting(told)}"><send eventexpr="_one.event"><param name="at" expr="_one.at"/></send></foreach>`,
      assign(waiting(told), '[]'),
    ];
  }

  /** It goes on to what is next on it, if it plays; what it was on its way to before is void. */
  private goes(told: Told): string[] {
    const span = 1000 / framesPerSecond(this.program);
    const delay = `((${this.next(told)}) - ${at(told)}) * ${span} + 'ms'`;
    return [
      assign(turn(told), `${turn(told)} + 1`),
      ...when(told.there ? `${plays(told)} && ${there(told)}` : plays(told), [
        `<send event="${timeEvent(told)}" delayexpr="${escape(delay)}"><param name="at" expr="${turn(told)}"/></send>`,
      ]),
    ];
  }
}

const stepsOf = ({ thread }: Call): Step[] => thread.branches.flatMap(({ steps }) => steps);

/** The label that a step names: null for one that is still to be named. */
const labelOf = (step: TimeStep): string | null | undefined => (step.do === 'show label' ? step.label : step.do === 'play' ? step.from : undefined);

/** Whether a layer is hidden and shown by more than spans. */
function comesAndGoes(node: Node): boolean {
  const { layer, changedBy } = node;
  const inLooks = changedBy.some(({ node: outer, path }) =>
    Object.values(outer.layer.looks ?? {}).some((look) => look?.inside?.[path]?.hidden !== undefined)
  );
  const inStates = statesAround(node).some(({ deltas, path }) => deltas[path]?.hidden !== undefined);
  return layer.hidden === true || layer.bindings?.shown !== undefined || inLooks || inStates;
}

/** Frames of a timeline at which something happens, in order; for the end of a section the one after its last. */
function stopsOf({ sections, timeline }: Told): number[] {
  const marks = [...marksOf(timeline)].filter((frame) => frame < timeline.length);
  return [...new Set([...marks, ...sections.map(({ to }) => to + 1)])].sort((a, b) => a - b);
}

const hasRounds = ({ sections }: Told): boolean => sections.some(({ ending }) => ending.do === 'loop' && ending.times !== undefined);
const noRounds = (told: Told): string[] => (hasRounds(told) ? [assign(rounds(told), 0)] : []);

// The data of a timeline.
const section = ({ name }: Told): string => `t_${name}`;
const at = ({ name }: Told): string => `_at_${name}`;
const plays = ({ name }: Told): string => `_plays_${name}`;
const turn = ({ name }: Told): string => `_turn_${name}`;
const rounds = ({ name }: Told): string => `_rounds_${name}`;
const there = ({ name }: Told): string => `_there_${name}`;
const seen = ({ name }: Told): string => `_seen_${name}`;
const waiting = ({ name }: Told): string => `_waiting_${name}`;
const NEXT = '_next';

const timeEvent = ({ name }: Told): string => `time.${name}`;
