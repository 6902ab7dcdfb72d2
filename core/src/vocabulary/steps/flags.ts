import { slot, type Slot } from '../../fields/forms.ts';
import { chosenLayer, onOffToggle, type OnOff } from '../../fields/step-fields.ts';
import type { Acting, ActedLayer, LayerFlag } from '../acting.ts';
import { done, isStepped, notDone, type Stepped } from '../stepped.ts';

/** What selecting, enabling and showing have in common: a layer is set on or off, or to what it is not. */

export const flagFields = { layer: chosenLayer(), what: onOffToggle() };

export const onOffSlot = (on: string, off: string, both: string): Slot =>
  slot('what', 'words', { words: { [both]: 'toggle', [on]: 'on', [off]: 'off' } });

export const layerSlot = slot('layer', 'layer');

export const isOneWay = ({ what }: { readonly what: OnOff }): boolean => what !== 'toggle';

export function setFlag(
  acting: Acting,
  { layer: path, what }: { readonly layer: string | null; readonly what: OnOff },
  flag: LayerFlag,
  [on, off]: readonly [on: string, off: string],
  then: (layer: ActedLayer) => Partial<Stepped> = () => ({})
): Stepped {
  const layer = acting.layer(path);
  if (isStepped(layer)) return layer;
  const isOn = what === 'toggle' ? !layer.is(flag) : what === 'on';
  if (layer.isBound(flag)) return notDone('bound', `${layer.name} is ${flag} by an expression, which wins.`);
  layer.set(flag, isOn);
  const more = then(layer);
  return done(`${isOn ? on : off} ${layer.name}`, more);
}
