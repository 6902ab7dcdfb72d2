import type { Ast, Property } from '../../expression/ast.ts';
import { partsOf } from '../../expression/ast.ts';
import { onceFor } from '../../once.ts';
import type { Program, SceneProgram } from '../../program/program.ts';
import { finding, type Rule } from '../finding.ts';
import { standingExpressions } from '../standing.ts';

export const sameName: Rule = {
  id: 'same-name',
  words: 'name fits two',
  meaning: 'a name used in an expression that fits two things there, so that whoever reads it cannot tell which is meant',
  spares: 'two things of one name of which only one has what is read',
  check: ({ program }) =>
    standingExpressions(program).flatMap(({ stored, scene, place, what }) => {
      const parsed = program.parse(stored);
      const twin = parsed.ok
        ? refsIn(parsed.value)
            .map((ref) => twinOf(program, scene, ref.id, ref.property))
            .find((name) => name !== null)
        : null;
      if (!twin) return [];
      return [finding('same-name', 'note', place, `There are two called ${twin}`, `${what} names ${twin}, and there are two things of that name.`)];
    }),
};

const refsIn = onceFor((ast: Ast): readonly { readonly id: string; readonly property: Property | null }[] => {
  const own = ast.k === 'ref' ? [{ id: ast.id, property: ast.property }] : [];
  return [...own, ...partsOf(ast).flatMap((part) => refsIn(part))];
});

/** The name of a thing, where another one that the same could be read of has it too; null where it is the only one. */
function twinOf(program: Program, scene: string | null, path: string, property: Property | null): string | null {
  const { piece, variables } = program;
  if (path.includes('/')) return null;
  if (property === null) {
    const name = variables.get(path)?.name;
    const isTwin = [...variables.values()].some(
      (other) => other.id !== path && (other.scene === null || other.scene === scene) && alike(other.name, name)
    );
    return name !== undefined && isTwin ? name : null;
  }
  const name = piece.layers.get(path)?.name;
  const around = scene === null ? undefined : program.scenes.get(scene);
  if (name === undefined || !around) return null;
  const scenes = [around, ...(around.scene.carries ?? []).flatMap(({ sheet }) => program.scenes.get(sheet) ?? [])];
  const count = scenes.reduce((sum, one) => sum + (namesOf(one).get(`${fits(property)} ${name.toLowerCase()}`) ?? 0), 0);
  return count > 1 ? name : null;
}

/** What kind of layers a property can be read of. */
const fits = (property: Property): string => (property === 'value' ? 'field' : property === 'state' || property === 'section' ? 'placement' : 'any');

const alike = (a: string, b: string | undefined): boolean => a.toLowerCase() === b?.toLowerCase();

/** How many layers of a scene have a name, by what can be read of them. */
const namesOf = onceFor(({ items }: SceneProgram): ReadonlyMap<string, number> => {
  const counts = new Map<string, number>();
  for (const { layer } of items)
    for (const kind of ['any', ...(layer.type === 'field' || layer.type === 'placement' ? [layer.type] : [])]) {
      const key = `${kind} ${layer.name.toLowerCase()}`;
      counts.set(key, (counts.get(key) ?? 0) + 1);
    }
  return counts;
});
