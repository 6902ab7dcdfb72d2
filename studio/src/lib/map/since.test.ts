import { apply, compile, unwrap, type Operation } from '@zany/core';
import { compose, layerId } from '@zany/core/testing';
import { expect, test } from 'vitest';
import { changedFrames } from './since.svelte';

const harbour = compose({
  parts: { Bell: { size: [20, 10], layers: { Dome: { at: [0, 0, 20, 10] } } } },
  frames: {
    Home: { layers: { On: { at: [0, 0, 50, 20], lines: ['click → go to Pier'] } } },
    Pier: { layers: { Ring: { at: [0, 0, 20, 10], type: 'placement', part: 'Bell' } } },
    Pay: {},
  },
});
const since = (...operations: Operation[]) => [...changedFrames(compile(harbour), compile(unwrap(apply(harbour, operations)).piece))].sort();
const [thread] = harbour.threads.keys();

test('frames that look otherwise, lead on otherwise, or are new', () => {
  expect(since()).toEqual([]);
  expect(since({ op: 'set', table: 'layers', id: layerId('Home', 'On'), path: ['pose', 'x'], value: 9 })).toEqual(['Home']);
  expect(since({ op: 'remove', table: 'threads', id: thread! })).toEqual(['Home']);
  expect(since({ op: 'set', table: 'scenes', id: 'Pay', path: ['name'], value: 'Paid' })).toEqual(['Pay']);
  expect(since({ op: 'put', table: 'scenes', value: { ...harbour.scenes.get('Pay')!, id: 'new', name: 'New', order: 'z' } as never })).toEqual([
    'new',
  ]);
});

test('a part that is otherwise changes the frames that it is seen on', () => {
  expect(since({ op: 'set', table: 'layers', id: layerId('Bell', 'Dome'), path: ['style', 'fill'], value: '#ff0000' })).toEqual(['Pier']);
});
