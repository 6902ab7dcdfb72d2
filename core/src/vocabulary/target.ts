import { Literal, Object as Obj, Union } from '@sinclair/typebox';
import { chosen, strict } from '../fields/step-fields.ts';
import { PLACES, type Place } from './places.ts';

/** A frame by id (null while none is chosen), or a place relative to where the person is. */
export const TargetSchema = Union([
  Obj({ to: Literal('frame'), frame: chosen('frame') }, strict),
  ...PLACES.map((place) => Obj({ to: Literal(place) }, strict)),
]);

export type Target = { to: 'frame'; frame: string | null } | { to: Place };
