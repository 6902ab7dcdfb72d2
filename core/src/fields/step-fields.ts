import { Null, Number as Num, Object as Obj, Optional, String as Str, Union, type Static } from '@sinclair/typebox';
import { id, layerPath, oneOf, type Refers } from './scalars.ts';

/** Fields that steps, cues and transitions share, as they stand in a document. */

export const strict = { additionalProperties: false } as const;

export const milliseconds = (minimum = 0, maximum = 600_000) => Num({ minimum, maximum });

/** Something that is named by its id; null while none is chosen. */
export const chosen = (refers: Refers) => Union([id(refers), Null()]);

export const chosenLayer = () => Union([layerPath(), Null()]);

export const onOffToggle = () => oneOf(['on', 'off', 'toggle'] as const);

export type OnOff = 'on' | 'off' | 'toggle';

export const timingFields = {
  ms: milliseconds(),
  easing: Str({ minLength: 1, maxLength: 200, description: 'a CSS easing function, spring() or overshoot()' }),
  delay: Optional(milliseconds()),
  stagger: Optional(Obj({ by: oneOf(['order', 'distance'] as const), ms: milliseconds() }, strict)),
};

/** How long something takes and how it runs; times in ms. */
export const TimingSchema = Obj(timingFields, strict);

export type Timing = Static<typeof TimingSchema>;
