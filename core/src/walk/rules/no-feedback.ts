import { onceFor } from '../../once.ts';
import type { Layer, Look } from '../../piece/schema.ts';
import { outward } from '../../program/items.ts';
import type { Item, Program, SceneProgram } from '../../program/program.ts';
import { asBefore, inEach } from '../again.ts';
import { comingUp, isThere } from '../coming-up.ts';
import { finding, type Finding, type Rule } from '../finding.ts';
import { inScene, inScenes, placementsIn, seenParts, seenScenes } from '../per-scene.ts';
import { pressedIn, scenesSeen } from '../pressed.ts';
import { isVeil } from '../sights.ts';

export const noFeedback: Rule = {
  id: 'no-feedback',
  words: 'no sign',
  meaning: 'something to press that looks the same hovered and pressed; bare hit areas only where others of the piece have looks',
  spares: 'fields, what is dragged, veils, and what is around it or in it that changes its look',
  check: ({ program, exploration }) => {
    const up = comingUp(program, exploration);
    const answering = inEach(program, 'answering areas', areaAnswersIn);
    const scenes = seenScenes(program);
    const seen = seenParts(program, up);
    const areasHave = asBefore(program, 'areas answer', [answering, scenes, seen], () => [...scenes, ...seen.keys()].some((id) => answering.get(id)));
    const says = (scene: SceneProgram) => silent(program, scene, areasHave, up);
    const parts = [...seen.keys()].map((id) => program.scenes.get(id)!).filter((part) => silentIn(part).length > 0);
    const placements = parts.length ? scenesSeen(program, up).flatMap(placementsIn) : [];
    return [
      ...inScenes(program, 'no-feedback', scenes, [areasHave, up], says),
      ...parts.flatMap((part) => (answersAround(part, placements) ? [] : inScene(program, 'no-feedback', part, [areasHave, up], says))),
    ];
  },
};

const silent = (program: Program, scene: SceneProgram, areasHave: boolean, up: ReadonlySet<string>): Finding[] =>
  silentIn(scene)
    .filter((item) => isThere(item, up) && (item.layer.type !== 'hit' || areasHave) && !answersInside(program, item))
    .map(({ layer }) =>
      finding(
        'no-feedback',
        'note',
        { scene: scene.scene.id, layer: layer.id },
        `${layer.name} gives no sign`,
        `${layer.name} can be pressed, and looks the same hovered and pressed.`
      )
    );

/** Some bare area to press looks otherwise under the pointer. */
const areaAnswersIn = onceFor((scene: SceneProgram): boolean => pressedIn(scene).some(({ layer }) => layer.type === 'hit' && answers(layer)));

/** What is pressed in a scene and shows no sign of it by itself, by what is around it, or by what is in it. */
const silentIn = onceFor((scene: SceneProgram): readonly Item[] =>
  pressedIn(scene).filter(
    (item) =>
      item.layer.type !== 'field' &&
      !item.layer.drag &&
      (scene.scene.use === 'part' || !isVeil(scene.scene, item.box)) &&
      !outward(item).some(({ layer }) => answers(layer)) &&
      !descendants(item).some(({ layer }) => answers(layer)) &&
      !item.threads.some(({ enabled, cue }) => enabled && (cue.type === 'hover' || cue.type === 'press'))
  )
);

/** It looks otherwise under the pointer, or something in it does. */
const answers = onceFor((layer: Layer): boolean =>
  [layer.looks?.hover, layer.looks?.press].some((look) => look !== undefined && changes(layer, look))
);

/** Whether a look differs from how a layer looks at rest; of what is in it, whatever is said counts. */
const changes = (layer: Layer, { ms: _ms, easing: _easing, inside, ...own }: Look): boolean =>
  Object.entries(own).some(([what, value]) => differs(layer[what as 'style'], value)) ||
  Object.values(inside ?? {}).some((delta) => Object.keys(delta).length > 0);

function differs(rest: unknown, look: unknown): boolean {
  if (typeof look !== 'object' || look === null) return rest !== look;
  const own = (rest ?? {}) as Readonly<Record<string, unknown>>;
  return Object.entries(look).some(([key, value]) => differs(own[key], value));
}

function descendants({ children }: Item): Item[] {
  return children.flatMap((child) => [child, ...descendants(child)]);
}

/** What is in a part is shown to be under the pointer by every placement of it. */
function answersAround({ scene }: SceneProgram, placements: readonly Item[]): boolean {
  const own = placements.filter(({ layer }) => layer.part === scene.id);
  return own.length > 0 && own.every((item) => outward(item).some(({ layer }) => answers(layer)));
}

/** Something in the part that is placed does, or listens for it. */
function answersInside(program: Program, { layer }: Item): boolean {
  const part = layer.part === undefined ? undefined : program.scenes.get(layer.part);
  return (
    part !== undefined &&
    part.items.some(
      (item) => answers(item.layer) || item.threads.some(({ cue }) => cue.type === 'hover' || cue.type === 'press') || answersInside(program, item)
    )
  );
}
