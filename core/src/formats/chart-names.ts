import type { SceneProgram } from '../program/program.ts';
import type { Cue } from '../vocabulary/cues/all.ts';
import type { Call, Leaf } from './chart.ts';

/** What things of a piece are called in a state chart. */

/** The event by which steps go on after waiting. */
export const goOnOf = (call: Call, branch: number, at: number): string => `go-on.${call.thread.id}.${branch}.${at}${inPlacement(call)}`;

/** The event by which a time is over. */
export const afterOf = (call: Call): string => `after.${call.thread.id}${inPlacement(call)}`;

/** In which placement a thread stands; nothing where it stands in none. */
const inPlacement = ({ root, instance }: Call): string => (instance?.key ? `.${token(root!, instance.key)}` : '');

/** A scene on the screen, or what is placed in it, as a part of a name. */
export const token = ({ scene }: SceneProgram, key: string): string =>
  (key === '' ? scene.id : key).replaceAll('/', '__').replace(/[^0-9A-Za-z_]/g, '_');

/** The number of times that a sheet came onto the screen. */
export const visitOf = ({ scene }: SceneProgram): string => `_visit_${scene.id.replace(/[^0-9A-Za-z_]/g, '_')}`;

export const eventOf = (cue: Cue): string => (cue.type === 'variable' ? `variable.${cue.variable}` : cue.type);

export const frameName = ({ scene }: SceneProgram) => `frame_${scene.id}`;

export const leafName = ({ scene, state }: Leaf) => (state === null ? frameName(scene) : `state_${scene.scene.id}_${state}`);

export const variableName = (id: string) => `v_${id.replace(/[^0-9A-Za-z_]/g, '_')}`;

export const nmtoken = (text: string) => text.replace(/[^0-9A-Za-z_-]+/g, '_') || '_';

export const delayed = (event: string, ms: number, at: string) => `<send event="${event}" delay="${ms}ms"><param name="at" expr="${at}"/></send>`;
